import { countText, priceText } from "#core/marks/wording";
import { usualOf } from "#core/studies/params";
import type { Study, StudyParams, StudyUnit } from "#core/studies/study";

/** "RSI 14", "Deviation bands 20, 2": what is usual and no number is left out. */
export function studyName({ short, parameters }: Study, params: StudyParams): string {
  const said = parameters.flatMap((parameter) => {
    const value = params[parameter.name];
    if (parameter.kind === "whole" || parameter.kind === "number") return [String(value)];
    if (parameter.kind === "period") return [PERIODS[value as keyof typeof PERIODS] ?? String(value)];
    if (parameter.kind === "time" && typeof value === "number") return [new Date(value).toISOString().slice(0, 10)];
    return value === usualOf(parameter) ? [] : [String(value)];
  });
  return [short, said.join(", ")].filter(Boolean).join(" ");
}

const PERIODS = { P1D: "day", P1W: "week", P1M: "month", P3M: "quarter", P1Y: "year" };

const GROUPED = new Intl.NumberFormat("en-US", { maximumFractionDigits: 0 });

/** A value of a line in its unit: a price by the market's decimals, a share as percent, volume in whole numbers. */
export function valueText(value: number, unit: StudyUnit, market: { decimals: number }): string {
  // What is rounded to nothing has no sign.
  const plain = (decimals: number) =>
    value
      .toFixed(decimals)
      .replace(/^-(?=0\.?0*$)/, "")
      .replace("-", "\u2212");
  switch (unit) {
    case "price":
      return plain(market.decimals);
    case "hundred":
      return plain(1);
    case "share":
      return `${(value * 100).toFixed(1).replace("-", "\u2212")} %`;
    case "atr":
      return `${plain(2)} ATR`;
    case "volume":
      return GROUPED.format(value).replace("-", "\u2212");
    case "flag":
      return value === 1 ? "yes" : "no";
    default:
      return plain(2);
  }
}

/** What a study's lines are on the bars of a chart. */
export interface Columns {
  study: Study;
  params: StudyParams;
  columns: readonly Float64Array[];
}

/** The place of the line that is read. */
export function mainLine({ lines, main }: Study): number {
  return main === undefined ? 0 : lines.findIndex(({ name }) => name === main);
}

/** The column of a line; `undefined` of a name it has no line of. */
export function lineOf({ study, columns }: Columns, name: string): Float64Array | undefined {
  const at = study.lines.findIndex((line) => line.name === name);
  return at < 0 ? undefined : columns[at];
}

/**
 * What a study reads at bar `i`, in words: "at 71.2: above 70 for 3 bars, falling". Among prices the close is held
 * against it. Nothing is said before its first value.
 */
export function sayStudy(of: Columns, close: ArrayLike<number>, i: number, market: { decimals: number }): string {
  const { study, columns } = of;
  const at = mainLine(study);
  const values = columns[at];
  const value = values?.[i];
  if (value === undefined || Number.isNaN(value)) return "no value yet";
  if (study.candles) return candlesText(of, i, market);
  const said = [place(of, values, close, i, market), comparison(of, i), way(values, i)].filter(Boolean).join(", ");
  return `at ${valueText(value, study.lines[at].unit, market)}: ${said}`;
}

/** How many bars up to `i` something has been so, without a break. */
function lasting(i: number, isSo: (i: number) => boolean): number {
  let n = 0;
  while (i - n >= 0 && isSo(i - n)) n++;
  return n;
}

const bars = (n: number) => `for ${countText(n, "bar")}`;

/** Where the value stands among its levels, or the close against a line among prices. */
function place(
  of: Columns,
  values: Float64Array,
  close: ArrayLike<number>,
  i: number,
  market: { decimals: number },
): string {
  const { study } = of;
  if (study.between && study.place === "price") return bandText(of, close, i);
  if (study.place === "price") {
    const sideAt = (n: number) => Math.sign(close[n] - values[n]);
    const side = sideAt(i);
    if (side === 0) return "the close stands on it";
    return `the close ${side > 0 ? "above" : "below"} it ${bars(lasting(i, (n) => sideAt(n) === side))}`;
  }
  const levels = study.levels ?? [];
  const unit = study.lines[mainLine(study)].unit;
  const text = (level: number) => valueText(level, unit, market).replace(/\.0+(?= |$)/, "");
  const above = levels.filter((level) => values[i] > level);
  const below = levels.filter((level) => values[i] < level);
  const [floor, ceiling] = [above.at(-1), below.at(0)];
  const within = (n: number) =>
    (floor === undefined || values[n] > floor) && (ceiling === undefined || values[n] < ceiling);
  const lasts = () => bars(lasting(i, within));
  if (floor !== undefined && ceiling !== undefined) return `between ${text(floor)} and ${text(ceiling)} ${lasts()}`;
  if (floor !== undefined) return `above ${text(floor)} ${lasts()}`;
  return ceiling === undefined ? "" : `below ${text(ceiling)} ${lasts()}`;
}

/** The close against a band: above, below, or at which share of it. */
function bandText(of: Columns, close: ArrayLike<number>, i: number): string {
  const { lines, between } = of.study;
  const back = Math.max(
    0,
    ...lines.filter(({ name }) => between!.includes(name)).map(({ ahead }) => (of.params[ahead ?? ""] as number) || 0),
  );
  const [a, b] = between!.map((name) => lineOf(of, name)!);
  const sideAt = (n: number) => {
    const [top, bottom] = [Math.max(a[n - back], b[n - back]), Math.min(a[n - back], b[n - back])];
    return close[n] > top ? 1 : close[n] < bottom ? -1 : Number.isNaN(top) || n < back ? NaN : 0;
  };
  const side = sideAt(i);
  if (Number.isNaN(side)) return "the band has no value yet";
  const lasts = bars(lasting(i, (n) => sideAt(n) === side));
  return `the close ${side > 0 ? "above" : side < 0 ? "below" : "within"} the band ${lasts}`;
}

/** Which of two lines is above the other, and since how many bars. */
function comparison(of: Columns, i: number): string {
  const { against } = of.study;
  if (!against) return "";
  const [a, b] = against.map((name) => lineOf(of, name)!);
  const side = Math.sign(a[i] - b[i]);
  if (Number.isNaN(side) || side === 0) return "";
  const lasts = bars(lasting(i, (n) => Math.sign(a[n] - b[n]) === side));
  return `${against[0]} ${side > 0 ? "above" : "below"} ${against[1]} ${lasts}`;
}

function way(values: Float64Array, i: number): string {
  const change = values[i] - values[i - 1];
  return Number.isNaN(change) || change === 0 ? "" : change > 0 ? "rising" : "falling";
}

function candlesText(of: Columns, i: number, market: { decimals: number }): string {
  const [open, , , close] = of.columns;
  const side = Math.sign(close[i] - open[i]);
  const lasts = bars(lasting(i, (n) => Math.sign(close[n] - open[n]) === side));
  return `closes at ${priceText(close[i], market)}: ${side > 0 ? "up" : side < 0 ? "down" : "even"} ${lasts}`;
}
