import { describe, expect, it } from "vitest";
import { Track } from "#core/series/track";
import { fittedLines, LINE_RULES } from "#core/structure/fittedLines";
import { swings } from "#core/structure/swings";
import { days, sp500 } from "#core/testing/openData";

type Candle = [number, number, number, number];
/** Rises by one a bar; every fifth bar dips to a straight line five below. */
const rising = (bars: number, wrong = -1): Candle[] =>
  Array.from({ length: bars }, (_, i): Candle => {
    const close = 100 + i + (i === wrong ? -8 : 0);
    return [100 + i, 102 + i, i % 5 === 2 ? 95 + i : 99 + i, close].map((value, n) =>
      n === 2 ? Math.min(value, close) : value,
    ) as Candle;
  });
const fit = (candles: Candle[], rules = LINE_RULES) => {
  const series = days(...candles);
  return fittedLines(new Track(series, 0.01), swings(series, 2), rules);
};

describe("fitted trend lines", () => {
  it("run through swings that end on them, rising under lows, valued at the last bar", () => {
    const [best] = fit(rising(30));
    expect(best).toMatchObject({ side: "low", perBar: 1, touches: 6, violations: 0 });
    expect(best.now).toBeCloseTo(95 + 29, 9);
  });
  it("one close beyond is too many unless one is allowed", () => {
    expect(fit(rising(30, 20)).filter(({ from, to }) => from.index < 20 && to.index < 20)).toEqual([]);
    expect(
      fit(rising(30, 20), { ...LINE_RULES, violations: 1 }).some(
        ({ violations, from }) => violations === 1 && from.index < 20,
      ),
    ).toBe(true);
  });
  it("of lines that say the same one is offered", () => expect(fit(rising(30))).toHaveLength(1));
  it("on open data (S&P 500, vega-datasets) keep what they promise, bar by bar", () => {
    const series = sp500();
    const lines = fittedLines(new Track(series, 0.01), swings(series, 3), {
      ...LINE_RULES,
      bars: series.length,
      swings: 40,
    });
    for (const { side, from, to, perBar, opposite } of lines) {
      const at = (i: number) => from.price + perBar * (i - from.index);
      expect(at(to.index)).toBeCloseTo(to.price, 9);
      for (let i = from.index; i < series.length; i++)
        expect(side === "low" ? series.close[i] - at(i) : at(i) - series.close[i]).toBeGreaterThanOrEqual(-1e-9);
      if (opposite) expect(opposite.side).not.toBe(side);
    }
    expect(fittedLines(new Track(days(), 0.01), [])).toEqual([]);
  });
});
