import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { fromBars, barAt, slice, type Series } from "#core/series/series";
import { days, sp500, walk } from "#core/testing/openData";
import { gaps, type Gap } from "#core/zones/gaps";

/** The same by looking at every later bar of every gap. */
function plainly(series: Series): Gap[] {
  const out: Gap[] = [];
  for (let at = 2; at < series.length; at++) {
    const [first, third] = [barAt(series, at - 2), barAt(series, at)];
    const direction = third.low > first.high ? "up" : third.high < first.low ? "down" : undefined;
    if (!direction) continue;
    const [bottom, top] = direction === "up" ? [first.high, third.low] : [third.high, first.low];
    const gap: Gap = { at, direction, bottom, top, state: "untouched", filledShare: 0 };
    for (let i = at + 1; i < series.length && gap.state !== "filled"; i++) {
      const { high, low } = barAt(series, i);
      const share = (direction === "up" ? top - low : high - bottom) / (top - bottom);
      if (share > 0 && gap.firstTouch === undefined) Object.assign(gap, { firstTouch: i, state: "partly" });
      gap.filledShare = Math.max(gap.filledShare, Math.min(1, share));
      if (direction === "up" ? low <= bottom : high >= top)
        Object.assign(gap, { state: "filled", filledShare: 1, filledAt: i });
    }
    out.push(gap);
  }
  return out;
}

const steps = fc.array(
  fc.tuple(fc.integer({ min: -12, max: 12 }), fc.integer({ min: 0, max: 2 }), fc.integer({ min: 0, max: 2 })),
  { minLength: 3, maxLength: 80 },
);

describe("fair value gaps", () => {
  it("lie between the first and the third candle; a later wick inside touches, one at the far edge fills", () => {
    const series = days(
      [10, 11, 9, 10],
      [10, 15, 10, 15],
      [15, 16, 13, 15],
      [15, 15, 13, 14],
      [14, 14, 12, 13],
      [13, 13, 11, 12],
    );
    const [gap] = gaps(series);
    expect(gap).toEqual({
      at: 2,
      direction: "up",
      bottom: 11,
      top: 13,
      state: "filled",
      filledShare: 1,
      firstTouch: 4,
      filledAt: 5,
    });
    // A wick that only meets the near edge is no touch.
    expect(gaps(slice(series, 0, 4))[0]).toMatchObject({ state: "untouched", filledShare: 0 });
    expect(gaps(slice(series, 0, 5))[0]).toMatchObject({ state: "partly", filledShare: 0.5, firstTouch: 4 });
  });
  it("are what looking at every later bar of each finds: on open data (S&P 500, vega-datasets) and on any bars", () => {
    const index = sp500();
    expect(gaps(index)).toEqual(plainly(index));
    expect(gaps(index).length).toBeGreaterThan(300);
    fc.assert(
      fc.property(steps, (drawn) => {
        expect(gaps(walk(drawn))).toEqual(plainly(walk(drawn)));
      }),
      { numRuns: 200 },
    );
  });
  it("turned upside down are the same the other way round", () => {
    fc.assert(
      fc.property(steps, (drawn) => {
        const series = walk(drawn);
        const turned = fromBars(
          Array.from({ length: series.length }, (_, i) => barAt(series, i)).map(
            ({ time, open, high, low, close, volume }) => ({
              time,
              open: 1000 - open,
              high: 1000 - low,
              low: 1000 - high,
              close: 1000 - close,
              volume,
            }),
          ),
        );
        const mirrored = gaps(turned).map((gap) => ({
          ...gap,
          direction: gap.direction === "up" ? "down" : "up",
          bottom: 1000 - gap.top,
          top: 1000 - gap.bottom,
        }));
        expect(mirrored).toEqual(gaps(series));
      }),
    );
  });
  it("need three candles", () => expect([gaps(days()), gaps(days([1, 2, 1, 2], [3, 4, 3, 4]))]).toEqual([[], []]));
});
