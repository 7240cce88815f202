import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Mark } from "#core/marks/kind";
import { followMark } from "#core/marks/follow";
import { kindOf, markKinds, readMark } from "#core/marks/registry";
import { slice } from "#core/series/series";
import { contextOf, day, live, mark, sampled, SAMPLES } from "#core/testing/marks";
import { turned } from "#core/testing/mirror";
import { sp500, walk } from "#core/testing/openData";

const MEASURING = markKinds
  .filter(({ lines, kind }) => lines !== undefined && kind !== "count")
  .map(({ kind }) => kind);

describe("every measuring kind", () => {
  const steps = fc.array(
    fc.tuple(fc.integer({ min: -8, max: 8 }), fc.integer({ min: 0, max: 4 }), fc.integer({ min: 0, max: 4 })),
    { minLength: 8, maxLength: 60 },
  );
  const others = ["regressionChannel", "swingChannel", "anchoredAverage", "divergence"];
  const ABOUT = 512;
  // A cycle is one of lows: highs have no part in it.
  it.each([...MEASURING, ...others].filter((kind) => kind !== "cycle"))("%s: mirrored prices are mirrored", (kind) => {
    fc.assert(
      fc.property(steps, fc.nat(3), (drawn, later) => {
        const bars = walk(drawn);
        const one = sampled(kind, later, 0);
        const turnedWay = kind === "pattern" ? { ...one.props, way: "down" } : one.props;
        const other: Mark = {
          ...one,
          props: turnedWay,
          anchors: one.anchors.map(({ time, price }) => ({ time, price: ABOUT - price })),
        };
        const [here, there] = [
          live(one, bars),
          live(
            other,
            turned(bars, (price) => ABOUT - price),
          ),
        ];
        expect(there.dead).toBe(here.dead);
        expect(there.events.map(({ event, time }) => [event, time])).toEqual(
          here.events.map(({ event, time }) => [event, time]),
        );
        const mirrored = kindOf(other)
          .prices(other, there)
          .map(({ bottom }) => ABOUT - bottom)
          .sort((a, b) => a - b);
        const prices = kindOf(one)
          .prices(one, here)
          .map(({ bottom }) => bottom)
          .sort((a, b) => a - b);
        expect(mirrored).toHaveLength(prices.length);
        prices.forEach((price, n) => expect(mirrored[n]).toBeCloseTo(price, 6));
      }),
      { numRuns: 40 },
    );
  });
  it.each([...MEASURING, ...others])("%s: bad details are refused, and what is usual stands in", (kind) => {
    const raw = (props: Record<string, unknown>) =>
      readMark({
        ...{ id: "1", kind, market: "m", rung: "P1D", note: "", author: "", version: 0, props },
        anchors: SAMPLES[kind].map(([n, price]) => ({ time: day(n), price })),
      });
    expect(typeof raw({})).toBe("object");
    const own = Object.keys((raw({}) as Mark).props);
    for (const bad of [-1, 0, 1e9, "x", null, [], [0], [-1], ["1"], Array(21).fill(1), NaN])
      for (const name of own) {
        // A list of its own, and 0 as "no tolerance" or "no window", are what they say.
        if (bad === 0 && (name === "tolerance" || name === "window")) continue;
        if (bad === 1e9 && ["perBar", "tolerance"].includes(name)) continue;
        if (bad === null && (name === "ratios" || name === "shares" || name === "field")) continue;
        if (Array.isArray(bad) && bad.length === 0 && name === "params") continue;
        expect(raw({ [name]: bad }), `${name} ${String(bad)}`).toMatch(/cannot be read/);
      }
  });
  // Open data: S&P 500, 2000 to 2010, carried by vega-datasets (npm).
  it("projections of every third swing of ten years are met, negated or in force, none of it by later bars", () => {
    const series = sp500();
    const seen = { met: 0, negated: 0, inForce: 0, waiting: 0 };
    for (let i = 60; i + 200 < series.length; i += 40) {
      const [a, b, c] = [i - 40, i - 20, i].map((at) => ({ at, time: series.time[at] }));
      const anchors = [
        { time: a.time, price: series.low[a.at] },
        { time: b.time, price: series.high[b.at] },
        { time: c.time, price: (series.low[a.at] + series.high[b.at]) / 2 },
      ];
      const one: Mark = {
        ...mark(
          "projection",
          [
            [0, 100],
            [1, 110],
            [2, 105],
          ],
          { ratios: [1] },
        ),
        anchors,
      };
      if (kindOf(one).check(one, contextOf(series)).length > 0) continue;
      const code = followMark(one, contextOf(slice(series, 0, i + 200))).code as keyof typeof seen;
      seen[code]++;
    }
    expect(seen.met).toBeGreaterThan(3);
    expect(seen.negated).toBeGreaterThan(3);
  });
});
