import { followMark } from "#core/marks/follow";
import type { Mark, MarketFacts } from "#core/marks/kind";
import { kindOf } from "#core/marks/registry";
import { slice, type Series } from "#core/series/series";
import { ALL_HOURS, Calendar } from "#core/time/calendar";
import { ChartController } from "../app/canvas/controller.ts";
import { MarkReach } from "../app/canvas/markReach.ts";
import { Scene } from "../app/canvas/scene.ts";
import { ChartStudies } from "../chart/studies/chartStudies.ts";
import { readChosenStudy } from "#core/studies/chosen";
import { drawCandles } from "../chart/candles.ts";
import type { Picture } from "../chart/picture.ts";
import { buildPyramid } from "../chart/pyramid.ts";
import { Viewport } from "../chart/viewport.ts";
import { millionBars } from "./core.ts";

/** Frame costs in milliseconds, each measured in turn with the others. */
export interface FrameCosts {
  /** Panning the candles alone: no axes, volume, marks or read-out. */
  candles: number[];
  /** Panning the whole chart. */
  chart: number[];
  /** Moving a handle of one mark on it; empty without marks. */
  drag: number[];
}

/** Runs in the browser: what a frame costs with `bars` in view and `count` marks. */
declare global {
  interface Window {
    benchFrames(bars: number, count: number, panels: number): FrameCosts;
  }
}

const market: MarketFacts = { id: "bench", name: "Bench", tick: 1, pip: 1, pipName: "pt", decimals: 0 };
const nothing = () => {};
const handlers = {
  onAnchor: nothing,
  onSelect: nothing,
  onDrag: nothing,
  onDrop: nothing,
  onMoment: nothing,
  onMenu: nothing,
  onPointed: nothing,
  onView: nothing,
  onEarliest: nothing,
};
const SIZE = { width: 960, height: 640 };
const ROUNDS = 8;
const FRAMES = 12;
/** The first frames of a round warm up what the one before did not use. */
const WARM = 2;

window.benchFrames = (bars, count, panels) => {
  const [host, canvas] = places("#host", "#canvas");
  const series = millionBars(bars * 2);
  const calendar = new Calendar(ALL_HOURS);
  const marks = makeMarks(bars, count, series).map((mark) => ({
    mark,
    life: followMark(mark, { series, market, calendar }),
  }));
  const pyramid = buildPyramid(series);
  const selected = marks.length > 0 ? [marks[0].mark.id] : [];
  const picture: Picture = {
    pyramid,
    market,
    timeframe: { count: 1, unit: "minute" },
    calendar,
    future: [],
    marks,
    scenarios: [],
    selected,
    unfinished: false,
    studies: panels > 0 ? studiesOf(series, panels) : undefined,
  };
  const controller = new ChartController(host, canvas, handlers);
  controller.setPicture(picture, true);
  controller.resize(SIZE.width, SIZE.height);
  controller.showBars(bars);
  const alone = candlesAlone(pyramid, bars);
  const costs: FrameCosts = { candles: [], chart: [], drag: [] };
  const [first, ...others] = marks;
  for (let round = 0; round < ROUNDS; round++) {
    costs.candles.push(...alone.pan().slice(WARM));
    costs.chart.push(
      ...controller
        .measure(
          FRAMES,
          (i) => controller.pan(i % 2 === 0 ? 7 : -6),
          () => painted(canvas),
        )
        .slice(WARM),
    );
    if (!first) continue;
    const move = (i: number) => {
      const mark = new MarkReach(picture, controller.scale).dragged(
        { mark: first.mark, anchor: 0 },
        { x: 300 + i, y: 300 - i },
      );
      controller.setPicture(
        {
          ...picture,
          marks: [{ mark, life: followMark(mark, { series: recent(series), market, calendar }) }, ...others],
        },
        false,
      );
    };
    const moved = controller.measure(FRAMES, move, () => painted(canvas));
    costs.drag.push(...moved.slice(WARM));
    controller.setPicture(picture, false);
  }
  controller.dispose();
  alone.dispose();
  return costs;
};

/** A cloud and two averages among the prices, and so many panels beneath them. */
function studiesOf(series: Series, panels: number) {
  const beneath = ["rsi", "macd", "stochastic", "onBalanceVolume"].slice(0, panels);
  const chosen = ["cloud", "sma", "ema", ...beneath].map((study) => readChosenStudy({ study }));
  const read = chosen.filter((one) => typeof one !== "string");
  const on = { series, timeframe: { count: 1, unit: "minute" }, calendar: new Calendar(ALL_HOURS), market } as const;
  return new ChartStudies().layer(read, "PT1M", { ...on, unfinished: false, others: new Map<string, Series>() }, "");
}

/** Waits until what was drawn is on the canvas: the browser would put the painting off. */
function painted(place: HTMLElement): void {
  for (const canvas of place.querySelectorAll("canvas")) canvas.getContext("2d")?.getImageData(0, 0, 1, 1);
}

/** While a mark is dragged it is followed over recent bars only, as on the page. */
function recent(series: Series): Series {
  return slice(series, Math.max(0, series.length - 30_000), series.length);
}

/** The same candles panned in the same scene, with nothing else drawn. */
function candlesAlone(pyramid: ReturnType<typeof buildPyramid>, bars: number) {
  const [canvas] = places("#alone");
  const scene = new Scene(canvas);
  const viewport = new Viewport(pyramid);
  scene.resize(SIZE.width, SIZE.height);
  viewport.resize(SIZE.width, SIZE.height);
  viewport.showBars(bars);
  return {
    dispose: () => scene.dispose(),
    pan: () =>
      Array.from({ length: FRAMES }, (_, i) => {
        const began = performance.now();
        viewport.pan(i % 2 === 0 ? 7 : -6);
        const { scale } = viewport;
        scene.draw(
          {
            ground: [],
            candles: drawCandles(pyramid, scale, false),
            marks: [],
            panels: [],
            heads: [],
            tags: [],
            priceTicks: [],
            timeTicks: [],
          },
          scale,
          market,
        );
        painted(canvas);
        return performance.now() - began;
      }),
  };
}

function places(...names: string[]): HTMLElement[] {
  return names.map((name) => {
    const place = document.querySelector<HTMLElement>(name);
    if (!place) throw new Error(`The page has no place ${name}.`);
    return place;
  });
}

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
        return {
          ...base,
          kind: "zone",
          anchors: [anchor(at), { ...anchor(at), price: anchor(at).price - 40 }],
          props: { side: "demand", own: true },
        };
      case 2:
        return { ...base, kind: "retracement", anchors: points(2), props: { ratios: [0.382, 0.5, 0.618] } };
      default:
        return {
          ...base,
          kind: "count",
          anchors: points(5),
          props: kindOf({ kind: "count" }).readProps({ degree: "Minor", scale: "arithmetic" }, 5) ?? {},
        };
    }
  });
}
