import type { Series } from "#core/series/series";
import { WindowExtreme } from "#core/studies/steps";
import { columnsOf, whole, type Bars, type Study } from "#core/studies/study";

/** Half way between the highest high and the lowest low of the last bars. */
export function rangeMiddle(period: number): (bars: Pick<Bars, "high" | "low">, i: number) => number {
  const [top, bottom] = [new WindowExtreme(period, 1), new WindowExtreme(period, -1)];
  return ({ high, low }, i) => (top.next(high[i]) + bottom.next(low[i])) / 2;
}

/**
 * Middles of the ranges of 9, 26 and 52 bars (G. Hosoda, 1969): conversion, base, the middle of the two (span A) and
 * the longest (span B), each at the bar it is computed on. On a chart the spans are compared 26 bars later.
 */
export const cloudStudy: Study = {
  name: "cloud",
  title: "Cloud",
  short: "Cloud",
  says: "middles of ranges, each at the bar it is computed on (Hosoda 1969)",
  source: "G. Hosoda, 1969",
  parameters: [whole("conversion", 9), whole("base", 26), whole("span", 52)],
  lines: [
    { name: "conversion", unit: "price" },
    { name: "base", unit: "price", ink: "second" },
    { name: "spanA", unit: "price", ink: "edge", ahead: "base" },
    { name: "spanB", unit: "price", ink: "edge", ahead: "base" },
  ],
  place: "price",
  between: ["spanA", "spanB"],
  begin({ conversion, base, span }) {
    const [quick, calm, long] = [conversion, base, span].map((period) => rangeMiddle(period as number));
    const out = [NaN, NaN, NaN, NaN];
    return (bars, i) => {
      [out[0], out[1], out[3]] = [quick(bars, i), calm(bars, i), long(bars, i)];
      out[2] = (out[0] + out[1]) / 2;
      return out;
    };
  },
};

/** Its lines over a series. */
export function cloud(series: Series, conversion = 9, base = 26, span = 52) {
  const columns = columnsOf(cloudStudy, { conversion, base, span }, series, { tick: 0 });
  return { conversion: columns[0], base: columns[1], spanA: columns[2], spanB: columns[3] };
}
