import { followMark } from "#core/marks/follow";
import type { Mark, MarketFacts } from "#core/marks/kind";
import { ALL_HOURS, Calendar } from "#core/time/calendar";
import { ChartController } from "../app/canvas/controller.ts";
import type { Picture } from "../chart/picture.ts";
import { buildPyramid } from "../chart/pyramid.ts";
import { millionBars } from "./core.ts";

/** Runs in the browser: frame costs of small pans over `bars` visible bars, bare and with `count` marks, in turn. */
declare global {
  interface Window {
    benchPans(bars: number, count: number): { bare: number[]; marked: number[] };
  }
}

const market: MarketFacts = { id: "bench", name: "Bench", tick: 1, pip: 1, pipName: "pt", decimals: 0 };
const nothing = () => {};
const handlers = { onAnchor: nothing, onSelect: nothing, onDrag: nothing, onDrop: nothing, onMoment: nothing, onMenu: nothing, onPointed: nothing, onView: nothing, onEarliest: nothing };

window.benchPans = (bars, count) => {
  const host = document.querySelector<HTMLElement>("#host");
  const canvas = document.querySelector<HTMLElement>("#canvas");
  if (!host || !canvas) throw new Error("The page has no place for a chart.");
  const series = millionBars(bars * 2);
  const calendar = new Calendar(ALL_HOURS);
  const marks = makeMarks(bars, count, series).map((mark) => ({ mark, life: followMark(mark, { series, market, calendar }) }));
  const pyramid = buildPyramid(series);
  const picture = (shown: typeof marks): Picture => {
    return { pyramid, market, timeframe: { count: 1, unit: "minute" }, calendar, future: [], marks: shown, scenarios: [], selected: [], unfinished: false };
  };
  const controller = new ChartController(host, canvas, handlers);
  controller.setPicture(picture([]), true);
  controller.resize(960, 640);
  controller.showBars(bars);
  const bare: number[] = [];
  const marked: number[] = [];
  for (let round = 0; round < 8; round++) {
    controller.setPicture(picture([]), false);
    bare.push(...controller.measurePans(12).slice(2));
    controller.setPicture(picture(marks), false);
    marked.push(...controller.measurePans(12).slice(2));
  }
  controller.dispose();
  return { bare, marked };
};

/** A quarter of each kind, spread over the bars in view. */
function makeMarks(bars: number, count: number, series: ReturnType<typeof millionBars>): Mark[] {
  const anchor = (i: number) => ({ time: series.time[Math.floor(i)], price: series.close[Math.floor(i)] });
  return Array.from({ length: count }, (_, n): Mark => {
    const at = series.length - bars + (n / count) * bars * 0.7;
    const step = bars / 40;
    const base = { id: String(n), market: "bench", rung: "PT1M", note: "", author: "", version: 1 };
    const points = (number: number) => Array.from({ length: number }, (_unused, i) => anchor(at + i * step));
    switch (n % 4) {
      case 0:
        return { ...base, kind: "level", anchors: points(1), props: { label: "" } };
      case 1:
        return { ...base, kind: "zone", anchors: [anchor(at), { ...anchor(at), price: anchor(at).price - 40 }], props: { side: "demand", own: true } };
      case 2:
        return { ...base, kind: "retracement", anchors: points(2), props: { ratios: [0.382, 0.5, 0.618] } };
      default:
        return { ...base, kind: "impulse", anchors: points(5), props: { degree: "Minor", scale: "arithmetic" } };
    }
  });
}
