import { describe, expect, it } from "vitest";
import { boundPrice } from "#core/conditions/price";
import { conditionOf, needsOf, readTerms, type Terms } from "#core/conditions/registry";
import type { Judged } from "#core/conditions/condition";
import { pointAndFigureOf } from "#core/columns/pointAndFigure";
import { asInstant, EVER } from "#core/observe/instant";
import { warmFrom } from "#core/observe/warm";
import { slice } from "#core/series/series";
import { turned } from "#core/testing/mirror";
import { sp500 } from "#core/testing/openData";
import { layer, momentsOf } from "#core/testing/told";
import { ALL_HOURS, Calendar } from "#core/time/calendar";

// Open data: S&P 500, carried by vega-datasets (npm).
const series = slice(sp500(), 0, 1_200);
const read = (raw: object) => readTerms({ on: "columns", rung: "P1D", ...raw }, "c");

function judgedBy(terms: Terms, bars = series): Judged[] {
  const condition = conditionOf(terms);
  const state = condition.start(terms);
  return momentsOf([layer("P1D", bars)], condition.needs(terms)).flatMap((moment) => [
    ...condition.next(terms, state, { moment, since: asInstant(EVER), tolerance: 1e-5, zone: "UTC", met: [] }).judged,
  ]);
}
const metAt = (judged: readonly Judged[]) => judged.flatMap(({ met }, i) => (met ? [i] : []));

describe("a count from columns as a condition", () => {
  const { targets } = pointAndFigureOf(series, { box: { percent: 1 }, reversal: 3, method: "highLow" }, 0.01);
  const at = { "in force": "forceAt", met: "metAt", negated: "negatedAt" } as const;
  it.each(["in force", "met", "negated"] as const)("%s: at the bars the chart says, and no other", (event) => {
    const expected = new Set(
      targets.flatMap(({ isUp, ...target }) => {
        const bar = target[at[event]];
        // What came into force and was met at one bar is told as met.
        const isPassed = event === "in force" && (target.metAt === bar || target.negatedAt === bar);
        return isUp && bar !== undefined && !isPassed ? [bar] : [];
      }),
    );
    expect(metAt(judgedBy(read({ way: "up", event })))).toEqual([...expected].sort((a, b) => a - b));
    expect(expected.size).toBeGreaterThan(5);
  });
  it("leaves its target and the extreme it is counted from", () => {
    const judged = judgedBy(read({ box: 10, reversal: 1, way: "down" }));
    const [first] = metAt(judged);
    const bound = (bind: "level" | "swing") =>
      boundPrice({ bind, step: 1 }, judged[first].by, { sign: 1, tick: 0.01 })!;
    expect(bound("level")).toBeLessThan(series.low[first] + 10);
    expect(bound("swing")).toBeGreaterThan(bound("level"));
    expect(bound("level") % 10).toBeCloseTo(0, 6);
  });
  it("boxes that cannot be made, or cannot any more, say nothing and end nothing", () => {
    expect(metAt(judgedBy(read({ box: 1e-6 })))).toEqual([]);
    const sinking = turned(series, (price) => price - 1_300);
    expect(judgedBy(read({ percent: 1 }), sinking)).toHaveLength(series.length);
  });
  it("is read with what it leaves out, refused with a sentence, said in words", () => {
    expect(read({})).toMatchObject({ percent: 1, reversal: 3, way: "either", event: "in force" });
    const say = (raw: object) => conditionOf(read(raw)).say(read(raw), { decimals: 2 });
    expect(say({ way: "up" })).toBe("a count of 1 % boxes, 3 to turn, that points up is in force on a day candle");
    expect(say({ box: 5, event: "met" })).toBe("a count of boxes of 5, 3 to turn, is met on a day candle");
    expect(() => read({ box: 1, percent: 1 })).toThrow(/cannot stand beside percent/);
    expect(() => read({ percent: 51 })).toThrow(/at most 50/);
    expect(() => read({ box: 0 })).toThrow(/"c\.box"/);
    expect(() => read({ reversal: 2 })).toThrow(/must be 1 or 3/);
  });
  it("hangs on all the bars there are", () =>
    expect(warmFrom(needsOf([read({})]), asInstant(Date.UTC(2024, 5, 1)), new Calendar(ALL_HOURS))).toBe(EVER));
});
