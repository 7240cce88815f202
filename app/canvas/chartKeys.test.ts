import { describe, expect, it } from "vitest";
import { fromBars } from "#core/series/series";
import { ALL_HOURS, Calendar } from "#core/time/calendar";
import { parseTimeframe } from "#core/time/timeframe";
import type { Picture } from "../../chart/picture.ts";
import { buildPyramid } from "../../chart/pyramid.ts";
import { makeScale } from "../../chart/scale.ts";
import { pressKey, type KeyedChart } from "./chartKeys.ts";
import { anchorAt, readAt, stepped } from "./crosshair.ts";

function aChart(isPlacing: boolean) {
  const done: string[] = [];
  const note =
    (name: string, answer = true) =>
    (...values: unknown[]) => {
      done.push([name, ...values].join(" "));
      return answer;
    };
  const chart: KeyedChart = {
    isPlacing,
    width: 100,
    pan: note("pan"),
    zoom: note("zoom"),
    stretch: note("stretch"),
    fit: note("fit"),
    showLatest: note("latest"),
    moveCursor: note("cursor"),
    nudge: note("nudge"),
    anchorHere: note("anchor", isPlacing),
    menuHere: note("menu"),
  };
  return { chart, done };
}

describe("keys of the chart", () => {
  it.each([
    ["ArrowLeft", false, false, "pan -8"],
    ["ArrowRight", true, false, "pan 50"],
    ["ArrowRight", true, true, "cursor 1 0 true"],
    ["ArrowUp", false, false, "nudge 1"],
    ["ArrowDown", true, false, "nudge -10"],
    ["ArrowDown", false, true, "cursor 0 -1 false"],
    ["+", false, false, "zoom 0.8"],
    ["0", false, false, "fit"],
    ["End", false, false, "latest"],
  ])("%s (shift %s, placing %s) does %s", (key, shiftKey, isPlacing, expected) => {
    const { chart, done } = aChart(isPlacing);
    expect(pressKey(chart, { key, shiftKey, altKey: false })).toBe(true);
    expect(done).toEqual([expected]);
  });
  it.each([
    ["ArrowLeft", false, "nudge 0 -1"],
    ["ArrowRight", true, "nudge 0 10"],
  ])("with Alt, %s moves what is chosen by bars", (key, shiftKey, expected) => {
    const { chart, done } = aChart(false);
    expect(pressKey(chart, { key, shiftKey, altKey: true })).toBe(true);
    expect(done).toEqual([expected]);
  });
  it(
    "Enter sets an anchor while something is placed and opens the menu otherwise; other keys are left to " + "the page",
    () => {
      const [busy, free] = [aChart(true), aChart(false)];
      for (const { chart } of [busy, free])
        expect(pressKey(chart, { key: "Enter", shiftKey: false, altKey: false })).toBe(true);
      expect([busy.done, free.done]).toEqual([["anchor"], ["anchor", "menu"]]);
      for (const altKey of [false, true])
        expect(pressKey(free.chart, { key: "q", shiftKey: false, altKey })).toBe(false);
    },
  );
});

describe("the crosshair", () => {
  const series = fromBars(
    [0, 1, 2].map((i) => ({
      time: Date.UTC(2024, 5, 3, 8 + i),
      open: 10 + i,
      high: 13 + i,
      low: 9 + i,
      close: 12 + i,
      volume: 1,
    })),
  );
  const picture: Picture = {
    pyramid: buildPyramid(series),
    market: { id: "m", name: "M", tick: 0.25, pip: 1, pipName: "pt", decimals: 2 },
    timeframe: parseTimeframe("PT1H")!,
    calendar: new Calendar({ ...ALL_HOURS, zone: "Asia/Kolkata" }),
    future: [Date.UTC(2024, 5, 3, 11)],
    marks: [],
    selected: [],
    scenarios: [],
    unfinished: false,
  };
  const scale = makeScale({ from: -0.5, to: 3.5, bottom: 0, top: 20 }, { left: 0, top: 0, width: 400, height: 200 });
  it("reads the bar under it, the close before, and the market's own clock", () => {
    const read = readAt(picture, scale, { x: 150, y: 100 })!;
    expect(read.at).toMatchObject({ index: 1, bar: { open: 11, close: 13 }, before: 12 });
    expect(read.cross).toMatchObject({ price: "10.00", time: "3 Jun, 14:30" });
  });
  it("over the first bar there is none before, in the future's room no bar at all, beside the plot nothing", () => {
    expect(readAt(picture, scale, { x: 50, y: 100 })!.at).not.toHaveProperty("before");
    expect(readAt(picture, scale, { x: 350, y: 100 })!.at).toMatchObject({ index: 3 });
    expect(readAt(picture, scale, { x: 350, y: 100 })!.at).not.toHaveProperty("bar");
    expect(readAt(picture, scale, { x: 410, y: 100 })).toBeUndefined();
  });
  it("is put by keys from bar to bar and from price to price, never off the bars or the plot", () => {
    const at = (from: { x: number; y: number } | undefined, bars: number, up: number) => {
      const point = stepped(picture, scale, from, bars, up)!;
      return [Math.round(scale.index(point.x) * 10) / 10, Math.round(scale.price(point.y) * 100) / 100];
    };
    expect(at(undefined, 0, 0)).toEqual([2, 14]);
    expect(at(undefined, -1, 0)).toEqual([1, 14]);
    expect(at({ x: 150, y: scale.y(13) }, 0, 1)).toEqual([1, 14]);
    expect(at({ x: 150, y: scale.y(13) }, 0, -1)).toEqual([1, 11]);
    expect(at(undefined, 50, 3)).toEqual([2, 15]);
    expect(at(undefined, -50, -3)).toEqual([0, 9]);
    const empty = { ...picture, pyramid: buildPyramid(fromBars([])) };
    expect(stepped(empty, scale, undefined, 1, 0)).toBeUndefined();
  });
  it("means a bar's price where one is near, else the price on the tick grid", () => {
    expect(anchorAt(picture, scale, { x: 152, y: scale.y(14) + 3 })).toEqual({ time: series.time[1], price: 14 });
    expect(anchorAt(picture, scale, { x: 150, y: scale.y(3.1) })).toEqual({ time: series.time[1], price: 3 });
  });
});
