import type { Life, Mark, MarketFacts } from "#core/marks/kind";
import { priceText, rungText } from "#core/marks/wording";
import { atr } from "#core/studies/atr";
import { hasOvernight } from "#core/series/hours";
import { lastAtOrBefore, type Series } from "#core/series/series";
import { bucketAt, bucketOfBar } from "#core/time/boundaries";
import type { Calendar } from "#core/time/calendar";
import { DAY } from "#core/time/dates";
import { formatTimeframe, isIntraday, nominalLength, parseTimeframe, type Timeframe } from "#core/time/timeframe";
import { offsetAt } from "#core/time/zone";
import { bandsOf } from "./bands.ts";
import { batch } from "./batch.ts";
import { bounded } from "./bounds.ts";
import { drawCandles } from "./candles.ts";
import { drawColumnLines, drawColumns, drawColumnTargets, type ColumnLayer } from "./columns.ts";
import type { Area } from "#core/areas/areas";
import { declutter } from "./declutter.ts";
import { drawFarOff } from "./farOff.ts";
import { separateLabels } from "./labels.ts";
import {
  asOutline,
  drawAreas,
  drawNextShift,
  drawSwingNames,
  type SwingName,
  type NextShift,
  type Offer,
} from "./offers.ts";
import { pivotBar } from "#core/marks/pivotBar";
import { drawingOf } from "./marks/registry.ts";
import type { Pyramid } from "./pyramid.ts";
import { drawNights, nights, type Stretch } from "./nights.ts";
import type { StudyLayer } from "./studies/layer.ts";
import { drawScenario, type DrawnScenario } from "./scenario.ts";
import type { Scale } from "./scale.ts";
import type { Shape } from "./shapes.ts";
import { drawVolume } from "./volume.ts";
import { priceTicks, timeTicks, type MarketTime, type TimeTick } from "./ticks.ts";

export interface LivedMark {
  mark: Mark;
  life: Life;
}

/** Everything a chart shows, apart from the size and the part in view. */
export interface Picture {
  pyramid: Pyramid;
  market: MarketFacts;
  timeframe: Timeframe;
  calendar: Calendar;
  /** Times of the bars to come, for the room on the right. */
  future: readonly number[];
  marks: readonly LivedMark[];
  scenarios: readonly DrawnScenario[];
  /** Ids of the marks that are chosen. */
  selected: readonly string[];
  /** What the machine offers: outlines. */
  offers?: readonly Offer[];
  swingNames?: readonly SwingName[];
  areas?: readonly Area[];
  chosenArea?: Area | undefined;
  /** Where the next shift of the rung shown would be. */
  nextShift?: NextShift | undefined;
  /** The same of longer rungs that are kept in sight. */
  longerShifts?: readonly (NextShift & { rung: string })[] | undefined;
  /** Whether the last bar is still being made. */
  unfinished: boolean;
  /** Studies among the prices and beneath them; what draws them comes with them. */
  studies?: StudyLayer | undefined;
  /** Columns in place of bars: `pyramid` is then one of columns, dated by the bars that began them. */
  columns?: ColumnLayer | undefined;
}

/** A picture as layers of shapes, back to front, and its axes. */
export interface Layout {
  ground: Shape[];
  candles: Shape[];
  marks: Shape[];
  /** Panels beneath the plot, and the names and values of studies at the last bar. */
  panels: Shape[];
  heads: Shape[];
  /** On the axis itself: outside the plot, never clipped. */
  tags: Shape[];
  priceTicks: number[];
  timeTicks: TimeTick[];
}

export function layOut(picture: Picture, scale: Scale): Layout {
  const { pyramid, calendar, future, studies } = picture;
  const series = pyramid.levels[0];
  const last = series.length - 1;
  const { view, plot } = scale;
  const timeAt = marketTime(picture.timeframe, calendar);
  const end = Math.min(view.to, last + future.length);
  const ticks = timeTicks((i) => timeAt(timeOf(series, future, i)), Math.max(view.from, 1), end, scale.slot);
  const tags = axisTags(picture, scale);
  const night = nightsOf(picture, scale);
  const { columns } = picture;
  const said = [
    ...(columns ? [...drawColumnLines(columns, scale), ...drawColumnTargets(columns, scale, picture.market)] : []),
    ...drawReading(picture, scale),
    ...drawMarks(picture, scale),
    ...farOff(picture, scale),
    ...drawScenarios(picture, scale),
  ];
  return {
    ground: bounded(
      [
        ...drawGround(scale, last, ticks),
        ...drawNights(night, scale),
        ...drawVolume(pyramid, scale, night),
        ...(studies?.amongPrices(scale) ?? []),
      ],
      plot,
    ),
    candles: bounded(columns ? drawColumns(columns, scale) : drawCandles(pyramid, scale, picture.unfinished), plot),
    marks: bounded(batch(separateLabels(said, plot, last < 0 ? plot.top : scale.y(series.close[last]))), plot),
    panels: studies?.panels(scale, ticks) ?? [],
    heads: studies?.heads(scale, last) ?? [],
    tags: tags.shapes,
    priceTicks: priceTicks(view.bottom, view.top, plot.height, view.log).filter((price) =>
      tags.taken.every((y) => Math.abs(scale.y(price) - y) > 15),
    ),
    timeTicks: ticks,
  };
}

/** The stretches of bars in view, the future's room included, that are traded overnight. */
function nightsOf({ pyramid, timeframe, calendar, future }: Picture, { view }: Scale): Stretch[] {
  if (!isIntraday(timeframe) || !hasOvernight(calendar.spec)) return [];
  const series = pyramid.levels[0];
  return nights(
    (i) => timeOf(series, future, i),
    Math.max(0, view.from),
    Math.min(view.to, series.length - 1 + future.length),
    calendar,
  );
}

/**
 * How times of bars are read on the axis: labels of a day and longer as they stand, instants by the market's clock and
 * date.
 */
function marketTime(timeframe: Timeframe, calendar: Calendar): (time: number) => MarketTime {
  if (!isIntraday(timeframe)) return (time) => ({ clock: time, date: time });
  const { zone } = calendar.spec;
  let [date, until] = [0, -Infinity];
  return (time) => {
    // Times come in order: a trading date is looked up once.
    if (time >= until) {
      const day = calendar.tradingDate(time);
      date = day * DAY;
      until = calendar.close(day);
    }
    return { clock: time + offsetAt(time, zone), date };
  };
}

/** Time of a bar index, in the future's room too; past what the calendar was asked for it stands still. */
export function timeOf(series: Series, future: readonly number[], index: number): number {
  if (index < 0) return series.time[0] ?? 0;
  if (index < series.length) return series.time[index];
  return future[Math.min(index - series.length, future.length - 1)] ?? series.time[series.length - 1] ?? 0;
}

/**
 * Bar index of an instant: the bar that holds it, or its place in the future's room. Before the first bar it is
 * estimated from the usual distance of bars, so that what begins there is drawn as coming from there.
 */
export function indexOfTime(series: Series, future: readonly number[], time: number): number {
  const last = series.length - 1;
  if (last < 0) return 0;
  if (future.length > 0 && time >= future[0]) {
    let n = 0;
    while (n + 1 < future.length && future[n + 1] <= time) n++;
    return last + 1 + n;
  }
  if (time < series.time[0])
    return last > 0 ? ((time - series.time[0]) * last) / (series.time[last] - series.time[0]) : -1;
  return lastAtOrBefore(series, time);
}

/** Bars that made extremes of longer rungs, by series: looked for once, not at every frame. */
const extremes = new WeakMap<Series, Map<string, number>>();

/**
 * Bar index of an anchor of a mark: of one that is an extreme of a longer rung's bar the very bar that made it, where
 * it is asked for with its price.
 */
export function indexOfAnchor(
  { pyramid, future, timeframe, calendar, columns }: Picture,
  mark: Pick<Mark, "rung" | "kind">,
  time: number,
  price?: number,
): number {
  const series = pyramid.levels[0];
  const own = parseTimeframe(mark.rung);
  if (
    price === undefined ||
    columns ||
    !own ||
    nominalLength(own) <= nominalLength(timeframe) ||
    series.length === 0 ||
    time < series.time[0]
  )
    return indexOfTime(series, future, time);
  let known = extremes.get(series);
  if (!known) extremes.set(series, (known = new Map()));
  const key = `${mark.rung} ${time} ${price}`;
  const before = known.get(key);
  if (before !== undefined) return before;
  const found = pivotBar(series, { time, price }, own, timeframe, calendar);
  known.set(key, found);
  return found;
}

/** The instant a bar index begins at, whatever the rung: what bars of two charts are compared by. */
export function instantOf({ pyramid, future, timeframe, calendar }: Picture, index: number): number {
  const time = timeOf(pyramid.levels[0], future, index);
  return isIntraday(timeframe) ? time : bucketOfBar(time, timeframe, calendar).from;
}

/** Index of the bar that an instant falls into. */
export function indexOfInstant({ pyramid, future, timeframe, calendar }: Picture, instant: number): number {
  const time = isIntraday(timeframe) ? instant : bucketAt(instant, timeframe, calendar).time;
  return Math.round(indexOfTime(pyramid.levels[0], future, time));
}

function drawGround({ plot, x }: Scale, last: number, ticks: readonly TimeTick[]): Shape[] {
  const bottom = plot.top + plot.height;
  const right = plot.left + plot.width;
  const room = Math.max(plot.left, x(last + 0.5));
  const line = ({ index }: TimeTick) => {
    const at = Math.round(x(index - 0.5)) + 0.5;
    return [at, plot.top, at, bottom];
  };
  const shapes: Shape[] = [
    { kind: "path", paths: ticks.filter(({ strong }) => !strong).map(line), stroke: "faint", width: 1, dash: [2, 3] },
    { kind: "path", paths: ticks.filter(({ strong }) => strong).map(line), stroke: "rule", width: 1 },
  ];
  if (room < right)
    shapes.unshift({
      kind: "path",
      paths: [[room, plot.top, right, plot.top, right, bottom, room, bottom]],
      fill: "sheet",
      closed: true,
    });
  return shapes;
}

function drawMarks(picture: Picture, scale: Scale): Shape[] {
  return picture.marks.flatMap((lived) => drawMark(lived, picture, scale));
}

/** What the machine reads and offers: the next shift, outlines, the areas' brackets. */
function drawReading(picture: Picture, scale: Scale): Shape[] {
  const {
    offers = [],
    swingNames = [],
    areas = [],
    chosenArea,
    nextShift,
    longerShifts = [],
    pyramid,
    future,
    market,
    timeframe,
  } = picture;
  const indexOf = (time: number) => indexOfTime(pyramid.levels[0], future, time);
  const shiftOf = (shift: NextShift, rung: string, longer: boolean) =>
    drawNextShift(shift, indexOf(shift.time), scale, market, rungText(rung).toLowerCase(), longer);
  return [
    ...longerShifts.flatMap((shift) => shiftOf(shift, shift.rung, true)),
    ...(nextShift ? shiftOf(nextShift, formatTimeframe(timeframe), false) : []),
    ...drawSwingNames(swingNames, indexOf, scale),
    ...offers.flatMap((offer) => asOutline(drawMark(offer, picture, scale), offer)),
    ...drawAreas(areas, chosenArea, scale),
  ];
}

function farOff({ pyramid, marks, market }: Picture, scale: Scale): Shape[] {
  const series = pyramid.levels[0];
  return series.length > 0 ? drawFarOff(marks, scale, series.close[series.length - 1], market) : [];
}

/** One mark's shapes: what is drawn, and what a pointer can hit. */
export function drawMark({ mark, life }: LivedMark, picture: Picture, scale: Scale): Shape[] {
  const { pyramid, market, marks, selected, timeframe } = picture;
  const series = pyramid.levels[0];
  const rung = parseTimeframe(mark.rung);
  const hatchApart = HATCH * Math.min(4, Math.ceil(marks.length / CROWD));
  const origin = rung && nominalLength(rung) !== nominalLength(timeframe) ? rungText(mark.rung) : "";
  const chosen = selected.includes(mark.id);
  const shapes = drawingOf(mark.kind)(mark, life, {
    scale,
    market,
    indexOf: (time, price) => indexOfAnchor(picture, mark, time, price),
    last: series.length - 1,
    close: series.length > 0 ? series.close[series.length - 1] : NaN,
    atr: lastAtr(series),
    selected: chosen,
    origin,
    hatchApart,
  });
  // Words of what is chosen win their place first.
  return chosen ? shapes.map((shape) => (isMovable(shape) ? { ...shape, first: true } : shape)) : shapes;
}

const isMovable = (shape: Shape) => shape.kind === "text" && shape.movable === true;

const ranges = new WeakMap<Series, number>();

/** ATR(14) at the last bar, worked out once for a series. */
function lastAtr(series: Series): number {
  const known = ranges.get(series);
  if (known !== undefined) return known;
  const value = atr(series).at(-1) ?? NaN;
  ranges.set(series, Number.isNaN(value) ? 0 : value);
  return Number.isNaN(value) ? 0 : value;
}

/** Pixels between the lines of a hatch, wider by as much again for each so many marks. */
const HATCH = 7;
const CROWD = 40;

function drawScenarios({ pyramid, market, scenarios }: Picture, scale: Scale): Shape[] {
  const series = pyramid.levels[0];
  if (series.length === 0) return [];
  const last = series.length - 1;
  return scenarios.flatMap((scenario) => drawScenario(scenario, scale, last, series.close[last], market));
}

/** The last price and the prices that end the counts, on the price axis and kept apart. */
function axisTags({ pyramid, market, marks }: Picture, scale: Scale): { shapes: Shape[]; taken: number[] } {
  const series = pyramid.levels[0];
  if (series.length === 0) return { shapes: [], taken: [] };
  const { plot, view } = scale;
  const kills = bandsOf(marks)
    .filter(({ role }) => role === "kill")
    .map(({ bottom }) => ({ price: bottom, mark: "\u00d7 ", tag: "ink2" as const }))
    .filter(({ price }, i, all) => all.findIndex((other) => other.price === price) === i);
  const shown = [{ price: series.close[series.length - 1], mark: "", tag: "ink" as const }, ...kills].filter(
    ({ price }) => price > view.bottom && price < view.top,
  );
  const placed = declutter(
    shown.map(({ price }) => scale.y(price)),
    20,
    plot.top,
    plot.top + plot.height,
  );
  const shapes = shown.map(({ price, mark, tag }, i): Shape => ({
    kind: "text",
    x: plot.left + plot.width + 6,
    y: placed[i],
    text: `${mark}${priceText(price, market)}`,
    color: "sheet",
    tag,
    size: 12,
    bold: true,
    baseline: "middle",
  }));
  return { shapes, taken: placed };
}
