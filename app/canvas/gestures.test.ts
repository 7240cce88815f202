import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { makeScale } from "../../chart/scale.ts";
import { Gestures, type GesturedChart, type Point } from "./gestures.ts";

/** A chart of 100 bars on 400 by 200 pixels that writes down what is done to it, and a page element to point at. */
function aChart(change: Partial<GesturedChart> = {}) {
  const done: string[] = [];
  const note =
    (name: string) =>
    (...values: unknown[]) => {
      done.push(
        [
          name,
          ...values.map((value) => (typeof value === "number" ? Math.round(value * 100) / 100 : JSON.stringify(value))),
        ].join(" "),
      );
    };
  const at = ({ x, y }: Point) => `${x},${y}`;
  const chart: GesturedChart = {
    scale: makeScale({ from: 0, to: 100, bottom: 0, top: 10 }, { left: 0, top: 0, width: 400, height: 200 }),
    isPlacing: false,
    isManual: false,
    hover: () => undefined,
    anchorHere: () => (done.push("anchor"), true),
    gripAt: () => undefined,
    selectAt: (point, reach, add) => done.push(`select ${at(point)} within ${reach}${add ? " too" : ""}`),
    selectWithin: (from, to) => done.push(`box ${at(from)} to ${at(to)}`),
    showBox: () => undefined,
    menuAt: (point) => done.push(`menu ${at(point)}`),
    place: note("place"),
    setPrices: note("prices"),
    movePrices: note("move"),
    pan: note("pan"),
    zoom: note("zoom"),
    fit: note("fit"),
    ...change,
  };
  const host = Object.assign(new EventTarget(), {
    getBoundingClientRect: () => ({ left: 10, top: 20 }),
    focus: () => undefined,
    setPointerCapture: () => undefined,
  });
  const gestures = new Gestures(host as unknown as HTMLElement, chart);
  const send = (type: string, x: number, y: number, more: object = {}) =>
    host.dispatchEvent(
      Object.assign(new Event(type, { cancelable: true }), {
        clientX: x + 10,
        clientY: y + 20,
        button: 0,
        pointerId: 1,
        pointerType: "mouse",
        shiftKey: false,
        deltaX: 0,
        deltaY: 0,
        ...more,
      }),
    );
  return { done, gestures, send };
}

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

describe("a mouse on a chart", () => {
  it("drags the bars along, and chooses where it was only clicked", () => {
    const { done, send } = aChart();
    send("pointerdown", 100, 100);
    send("pointermove", 140, 100);
    send("pointerup", 140, 100);
    send("pointerdown", 50, 50);
    send("pointermove", 51, 51);
    send("pointerup", 51, 51);
    expect(done).toEqual(["place -10 90", "select 51,51 within 6"]);
  });
  it("drags prices along only once they were set by hand, and stretches them at their axis", () => {
    const { done, send } = aChart({ isManual: true });
    send("pointerdown", 100, 100);
    send("pointermove", 100, 150);
    send("pointerup", 100, 150);
    send("pointerdown", 420, 100);
    send("pointermove", 420, 300);
    send("pointerup", 420, 300);
    expect(done).toEqual(["place 0 100", "move 0 10 0.25", "prices 0 10 2.72"]);
  });
  it("with Shift chooses one more, or all in a box", () => {
    const { done, send } = aChart();
    send("pointerdown", 10, 10, { shiftKey: true });
    send("pointerup", 10, 10, { shiftKey: true });
    send("pointerdown", 10, 10, { shiftKey: true });
    send("pointermove", 90, 80);
    send("pointerup", 90, 80);
    expect(done).toEqual(["select 10,10 within 6 too", "box 10,10 to 90,80"]);
  });
  it("holds a handle and lets it go where it was drawn last, even when the gesture is broken off", () => {
    const held: string[] = [];
    const { send } = aChart({
      gripAt: () => ({ drag: ({ x, y }) => held.push(`drag ${x},${y}`), drop: () => held.push("drop") }),
    });
    send("pointerdown", 10, 10);
    send("pointermove", 30, 40);
    send("pointercancel", 30, 40);
    expect(held).toEqual(["drag 30,40", "drop"]);
  });
  it("the right button opens the menu; the wheel zooms about the pointer, with Shift it pans; two clicks fit", () => {
    const { done, send } = aChart();
    send("contextmenu", 60, 70, { button: 2 });
    send("wheel", 200, 10, { deltaY: 500 });
    send("wheel", 200, 10, { deltaY: 80, shiftKey: true });
    send("dblclick", 0, 0);
    expect(done).toEqual(["menu 60,70", "zoom 2.72 200", "pan 10", "fit"]);
  });
  it("after the end of the chart nothing listens any more", () => {
    const { done, gestures, send } = aChart();
    gestures.dispose();
    send("contextmenu", 60, 70);
    expect(done).toEqual([]);
  });
});

describe("fingers on a chart", () => {
  const touch = { pointerType: "touch" };
  it("one drags, and reaches wider than a mouse when it chooses", () => {
    const { done, send } = aChart();
    send("pointerdown", 100, 100, touch);
    send("pointerup", 100, 100, touch);
    expect(done).toEqual(["select 100,100 within 16"]);
  });
  it("two zoom by their distance and pan by their middle", () => {
    const { done, send } = aChart();
    send("pointerdown", 100, 100, touch);
    send("pointerdown", 200, 100, { ...touch, pointerId: 2 });
    send("pointermove", 300, 100, { ...touch, pointerId: 2 });
    send("pointerup", 300, 100, { ...touch, pointerId: 2 });
    send("pointerup", 100, 100, touch);
    expect(done).toEqual(["zoom 0.5 200", "pan -12.5"]);
  });
  it("one that rests opens the menu, one that moves on does not", () => {
    const { done, send } = aChart();
    send("pointerdown", 100, 100, touch);
    vi.advanceTimersByTime(600);
    send("pointerup", 100, 100, touch);
    send("pointerdown", 100, 100, touch);
    send("pointermove", 120, 100, touch);
    vi.advanceTimersByTime(600);
    send("pointerup", 120, 100, touch);
    expect(done).toEqual(["menu 100,100", "place -5 95"]);
  });
  it("placing, it aims while it is down and sets the anchor when it is lifted; a mouse sets it at once", () => {
    const { done, send } = aChart({ isPlacing: true });
    send("pointerdown", 100, 100, touch);
    send("pointermove", 110, 100, touch);
    expect(done).toEqual([]);
    send("pointerup", 110, 100, touch);
    send("pointerdown", 10, 10);
    expect(done).toEqual(["anchor", "anchor"]);
  });
});
