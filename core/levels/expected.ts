import { atr } from "#core/studies/atr";
import { pivotsOf } from "#core/levels/pivots";
import { barAt, type Series } from "#core/series/series";

/** Prices the coming period is expected to stay within, known when the one before it has closed. */
export interface ExpectedRange {
  low: number;
  high: number;
}

export interface ExpectedNext extends ExpectedRange {
  /**
   * Shares of past periods (0 to 1) that stayed within what was expected of them, below its high, above its low; and
   * how many.
   */
  within: number;
  below: number;
  above: number;
  n: number;
}

/** How it is made, as it is shown beside it. */
export const EXPECTED_FORMULA =
  "high = mean of R1 and close + ATR(14); low = mean of S1 and close \u2212 ATR(14); all of the period before";

/**
 * The range expected of the period after bar `i`: halfway between the classic pivots R1 and S1 and one ATR(14) about
 * the close (definition our own). NaN until the ATR is there.
 */
export function expectedAfter(series: Series, range: Float64Array, i: number): ExpectedRange {
  const bar = barAt(series, i);
  const { R1, S1 } = pivotsOf(bar);
  return { low: (S1 + bar.close - range[i]) / 2, high: (R1 + bar.close + range[i]) / 2 };
}

/** The range expected after the last bar, and how past ones fared; `undefined` before there are 15 bars. */
export function expectedNext(series: Series): ExpectedNext | undefined {
  const range = atr(series);
  const last = series.length - 1;
  if (last < 0 || Number.isNaN(range[last])) return undefined;
  let [within, below, above, n] = [0, 0, 0, 0];
  for (let i = 1; i <= last; i++) {
    if (Number.isNaN(range[i - 1])) continue;
    const { low, high } = expectedAfter(series, range, i - 1);
    const [held, kept] = [series.high[i] <= high, series.low[i] >= low];
    n++;
    if (held) below++;
    if (kept) above++;
    if (held && kept) within++;
  }
  const share = (count: number) => (n > 0 ? count / n : 0);
  return { ...expectedAfter(series, range, last), within: share(within), below: share(below), above: share(above), n };
}
