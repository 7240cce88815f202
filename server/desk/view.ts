import Papa from "papaparse";
import { atr } from "#core/studies/atr";
import { safeCell } from "#core/csv/safe";
import type { MarketFacts } from "#core/marks/kind";
import { levelName, levelsOf, type LevelOfMark } from "#core/marks/levels";
import type { Shown } from "#core/marks/shown";
import { barAt, slice, type Bar, type Series } from "#core/series/series";
import type { Hours } from "#core/series/hours";
import type { ColumnRules } from "#core/columns/columns";
import { columnLayerOf } from "../../chart/columns.ts";
import { ahead, isUnfinished, shownMarks } from "../../chart/compose.ts";
import type { LivedMark, Picture } from "../../chart/picture.ts";
import { buildPyramid } from "../../chart/pyramid.ts";
import type { View } from "../../chart/scale.ts";
import { drawnScenario } from "../../chart/scenario.ts";
import { factsOf, calendarOf } from "../bars/markets.ts";
import { hoursOf, seriesAsOf, seriesOf } from "../bars/series.ts";
import { readTimeframe } from "../bars/timeframes.ts";
import type { Market } from "../database/models.ts";
import { Failure } from "../failure.ts";
import { readClock } from "../clock.ts";
import type { ChosenStudy } from "#core/studies/chosen";
import { sayStudy, type Columns } from "#core/studies/reading";
import { ChartStudies } from "../../chart/studies/chartStudies.ts";
import { StudyLayer } from "../../chart/studies/layer.ts";
import { barsBeside } from "./studies.ts";
import { livesOf } from "./lives.ts";
import { marksAt, marksOf } from "./marks.ts";
import { scenariosAt, scenariosOf } from "./scenarios.ts";

/** What a chart shows, as its address says it. */
export interface Seen {
  rung: string;
  hours: Hours;
  asOf: number | undefined;
  view: View;
  /** Id of the scenario that is drawn. */
  scenario: string;
  /** What is left out of the charts. */
  shown: Shown;
  /** The studies on the charts. */
  studies: readonly ChosenStudy[];
  /** Columns in place of bars, counted from the bar at `start` on; the view is then one of columns. */
  columns?: { rules: ColumnRules; start: number } | undefined;
}

/** Most bars that a picture is made of and a file holds. */
const MOST = 20_000;

export interface SeenMarket {
  market: MarketFacts;
  picture: Picture;
  view: View;
  marks: readonly LivedMark[];
  studies: readonly Columns[];
  levels: LevelOfMark[];
  series: Series;
  /** What is drawn: bars, or columns in their place. */
  drawn: Series;
}

/** Room left and right of a market's bars, and how far over its prices, a view may reach. */
const BEYOND = { bars: 2_000, times: 1_000 };
/**
 * Share of its prices that is the least height of a view: far below any tick, far above where numbers have no more
 * digits.
 */
const LEAST = 1e-9;

/** Throws a `Failure` when a view shows nothing of what the market holds: without it a picture could be of any size. */
function checkView({ from, to, bottom, top, log }: View, series: Series): void {
  const refuse = (why: string) => {
    throw new Failure("view", why, { status: 400, remedy: "Go back to the chart and ask from there." });
  };
  const largest = Math.max(1e-12, Math.abs(bottom), Math.abs(top));
  const highest = series.high.reduce((most, price) => Math.max(most, Math.abs(price)), 1);
  if (to <= from || top <= bottom) refuse("The view has no width or no height.");
  if (from < -BEYOND.bars || to > series.length + BEYOND.bars) refuse("The view lies beyond the market's bars.");
  if (to - from < 0.5 || top - bottom < LEAST * largest) refuse("The view is too narrow to be drawn.");
  if (largest > highest * BEYOND.times) refuse("The view lies beyond the market's prices.");
  if (log && (bottom <= 0 || top / bottom > 1e9))
    refuse("A logarithmic view begins above zero and spans a billion times at most.");
}

/**
 * Everything of a market that a chart shows, worked out here from what is stored: the picture, its marks and its
 * levels.
 */
export async function composeSeen(
  market: Market,
  { rung, hours, asOf, view: asked, scenario, shown, studies: chosen, columns: asColumns }: Seen,
): Promise<SeenMarket> {
  const barsOf = (own: string, of: Hours, whose = market) =>
    asOf === undefined ? seriesOf(whose, own, of) : seriesAsOf(whose, own, of, asOf);
  const series = await barsOf(rung, hours);
  const facts = factsOf(market);
  const columns = asColumns && columnsOf(series, asColumns, facts);
  checkView(asked, columns?.series ?? series);
  const timeframe = readTimeframe(rung);
  const calendar = hoursOf(market, hours);
  const now = asOf ?? (await readClock()).now;
  const known = asOf === undefined ? await marksOf(market.id) : await marksAt(market, asOf);
  const lived = await livesOf(known, (own) => barsOf(own, "all"), facts, calendarOf(market));
  const marks = shownMarks(lived, rung, series, shown);
  const on = { series, timeframe, calendar };
  const room = Math.max(0, Math.min(500, Math.ceil(asked.to - series.length) + 1));
  const written = asOf === undefined ? await scenariosOf(market.id) : await scenariosAt(market.id, asOf);
  const unfinished = isUnfinished(on, now);
  const others = await barsBeside(chosen, rung, (other) => barsOf(rung, hours, other));
  const drawn = new ChartStudies().drawn(chosen, rung, { ...on, market: facts, unfinished, others }, "");
  const scenarios = written.map((stored) => stored.scenario).filter(({ id }) => id === scenario);
  return {
    market: facts,
    picture: {
      pyramid: buildPyramid(columns?.series ?? series),
      market: facts,
      timeframe,
      calendar,
      future: columns ? [] : ahead(on, room),
      columns: columns?.layer,
      marks,
      scenarios: scenarios.map(drawnScenario),
      selected: [],
      unfinished: unfinished && !columns,
      studies: drawn.length > 0 && !columns ? new StudyLayer(drawn, series.close, facts) : undefined,
    },
    view: { ...asked, to: Math.min(asked.to, asked.from + MOST) },
    marks,
    studies: drawn,
    levels: series.length > 0 ? levelsOf(marks, series.close[series.length - 1]) : [],
    series,
    drawn: columns?.series ?? series,
  };
}

function columnsOf(series: Series, { rules, start }: NonNullable<Seen["columns"]>, { tick }: MarketFacts) {
  try {
    return columnLayerOf(slice(series, Math.min(start, series.length), series.length), rules, tick);
  } catch (error) {
    if (error instanceof RangeError)
      throw new Failure("view", error.message, { status: 400, remedy: "Choose other boxes on the chart." });
    throw error;
  }
}

/** The table of levels as CSV: names are guarded against being taken for formulas. */
export function levelsAsCsv({ levels, market, series }: SeenMarket): string {
  const range = atr(series).at(-1) ?? NaN;
  const close = series.length > 0 ? series.close[series.length - 1] : NaN;
  const rows = levels.map(({ bottom, top, kind, rung, status, distance, ...named }) => [
    bottom,
    top,
    safeCell(levelName(named, market)),
    kind,
    rung,
    safeCell(status),
    (distance * 100).toFixed(4),
    range > 0 ? ((distance * close) / range).toFixed(3) : "",
    ((distance * close) / market.pip).toFixed(2),
  ]);
  // The unit is a word of the analyst's, or of a file's.
  const head = ["bottom", "top", "name", "kind", "rung", "state", "percent", "ATR", safeCell(market.pipName)];
  return `${Papa.unparse([head, ...rows], { newline: "\n" })}\n`;
}

/** Bars in view, marks and levels as data. */
export function seenAsJson(
  { market, drawn: series, view, marks, levels, studies }: SeenMarket,
  { rung, hours, asOf, columns }: Seen,
): string {
  const from = Math.max(0, Math.floor(view.from));
  const part = slice(series, from, Math.max(from, Math.min(series.length, Math.ceil(view.to))));
  const bars: Bar[] = Array.from({ length: part.length }, (_, i) => barAt(part, i));
  const said = marks.map(({ mark: { id, kind, rung: own, anchors, props, note }, life: { status, dead } }) => ({
    id,
    kind,
    rung: own,
    anchors,
    props,
    note,
    status,
    dead,
  }));
  const read = studies.map((of) => ({
    study: of.study.name,
    params: of.params,
    says: sayStudy(of, series.close, series.length - 1, market),
    lines: Object.fromEntries(
      of.study.lines.map(({ name }, n) => [
        name,
        Array.from(of.columns[n].subarray(from, from + part.length), (value) => (Number.isNaN(value) ? null : value)),
      ]),
    ),
  }));
  const whole = {
    format: "even-compass-view-1",
    market,
    rung,
    hours,
    asOf: asOf ?? null,
    ...(columns ? { columns: columns.rules } : {}),
    bars,
    marks: said,
    levels,
    studies: read,
  };
  return `${JSON.stringify(whole, null, 1)}\n`;
}
