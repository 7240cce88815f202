import { BAR_FORMAT } from "#core/csv/format";
import { COLUMNS, type Series } from "#core/series/series";
import { DAY, formatDate } from "#core/time/dates";
import { isIntraday, type Timeframe } from "#core/time/timeframe";
import type { Market } from "../database/models.ts";
import { seriesOf } from "./series.ts";
import { readTimeframe } from "./timeframes.ts";

/** Bars written at once: what is sent never stands in memory whole. */
const AT_ONCE = 4096;

/** Times as ISO 8601: a date for bars of a day and longer, an instant in UTC for shorter ones. */
function timeText(time: number, timeframe: Timeframe): string {
  return isIntraday(timeframe) ? new Date(time).toISOString().replace(".000Z", "Z") : formatDate(time / DAY);
}

/** Bars of any rung as CSV: every number at full precision, so that reading them gives the very same bars. */
export async function* barsAsCsv(market: Market, rung: string): AsyncGenerator<string> {
  const timeframe = readTimeframe(rung);
  const series = await seriesOf(market, rung);
  yield `${isIntraday(timeframe) ? "time" : "date"},open,high,low,close,volume\n`;
  yield* inParts(series, (i) => `${timeText(series.time[i], timeframe)},${numbersOf(series, i).join(",")}\n`);
}

/** The same as JSON, with what is known of the market, so that it can be made anew elsewhere. */
export async function* barsAsJson(market: Market, rung: string): AsyncGenerator<string> {
  const timeframe = readTimeframe(rung);
  const series = await seriesOf(market, rung);
  const { name, kind, tick, pip, pipName, decimals, calendar } = market;
  const head = {
    format: BAR_FORMAT,
    market: { name, kind, tick, pip, pipName, decimals, calendar },
    timeframe: rung,
    columns: COLUMNS,
  };
  yield `${JSON.stringify(head).slice(0, -1)},"bars":[\n`;
  yield* inParts(
    series,
    (i) => `${i > 0 ? ",\n" : ""}${JSON.stringify([timeText(series.time[i], timeframe), ...numbersOf(series, i)])}`,
  );
  yield "\n]}\n";
}

function numbersOf(series: Series, i: number): number[] {
  return [series.open[i], series.high[i], series.low[i], series.close[i], series.volume[i]];
}

function* inParts(series: Series, line: (i: number) => string): Generator<string> {
  for (let from = 0; from < series.length; from += AT_ONCE) {
    const lines: string[] = [];
    for (let i = from; i < Math.min(series.length, from + AT_ONCE); i++) lines.push(line(i));
    yield lines.join("");
  }
}
