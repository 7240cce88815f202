import { describe, expect, it } from "vitest";
import { conditionOf, needsOf, readTerms, type Terms } from "#core/conditions/registry";
import { boundPrice } from "#core/conditions/price";
import type { Judged } from "#core/conditions/condition";
import { candlesAt } from "#core/candles/candles";
import { asInstant, EVER } from "#core/observe/instant";
import { warmFrom } from "#core/observe/warm";
import { PatternDetector } from "#core/patterns/detector";
import { run, Track } from "#core/series/track";
import { sp500 } from "#core/testing/openData";
import { layer, momentsOf } from "#core/testing/told";
import { ALL_HOURS, Calendar } from "#core/time/calendar";
import { slice } from "#core/series/series";

// Open data: S&P 500, carried by vega-datasets (npm).
const series = slice(sp500(), 0, 1_200);
const market = { decimals: 2 };
const read = (raw: unknown) => readTerms(raw, "c");

/** What a condition says at each close, from the first bar on. */
function judgedBy(terms: Terms): Judged[] {
  const condition = conditionOf(terms);
  const state = condition.start(terms);
  return momentsOf([layer("P1D", series)], condition.needs(terms)).flatMap((moment) => [
    ...condition.next(terms, state, { moment, since: asInstant(EVER), tolerance: 1e-5, zone: "UTC", met: [] }).judged,
  ]);
}

describe("a pattern as a condition", () => {
  const track = new Track(series, 0.01);
  const detector = new PatternDetector(track);
  run(track, [detector]);
  const atOf = { confirmed: "confirmedAt", retested: "retestedAt", met: "endedAt", failed: "endedAt" } as const;
  it.each(["confirmed", "retested", "met", "failed"] as const)(
    "%s: at the closes the detector says, and no other",
    (event) => {
      const expected = new Set(
        detector.found.flatMap(({ life }) => {
          const at = life[atOf[event]];
          const isEnd = event === "met" || event === "failed";
          return at === undefined || life.way !== 1 || (isEnd && life.state !== event) ? [] : [at];
        }),
      );
      const judged = judgedBy(read({ on: "pattern", pattern: "any", way: "up", event, rung: "P1D" }));
      expect(judged.flatMap(({ met }, i) => (met ? [i] : []))).toEqual([...expected].sort((a, b) => a - b));
      expect(expected.size).toBeGreaterThan(3);
    },
  );
  it("of one name and way it asks for that alone, and leaves its line, stop and target", () => {
    const own = detector.found.filter(({ name, life }) => name === "doubleBottom" && life.way === -1);
    const judged = judgedBy(read({ on: "pattern", pattern: "doubleBottom", way: "down", rung: "P1D" }));
    const at = judged.flatMap(({ met }, i) => (met ? [i] : []));
    expect(at).toEqual(own.map(({ life }) => life.confirmedAt).sort((a, b) => a! - b!));
    const [first] = own.sort((a, b) => a.life.confirmedAt! - b.life.confirmedAt!);
    const { by } = judged[at[0]];
    const bound = (bind: "level" | "patternStop" | "patternTarget") =>
      boundPrice({ bind, step: 1 }, by, { sign: 1, tick: 0.01 });
    expect([bound("level"), bound("patternStop"), bound("patternTarget")]).toEqual([
      ...[first.life.broke, first.life.stop, first.life.target],
    ]);
    expect(boundPrice({ bind: "patternStop", step: 1 }, judged[0].by, { sign: 1, tick: 0.01 })).toBeUndefined();
  });
  it("is read with what it leaves out, refused with a sentence, and said in words", () => {
    const terms = read({ on: "pattern", pattern: "flag" });
    expect(terms).toEqual({ on: "pattern", pattern: "flag", way: "either", event: "confirmed" });
    expect(() => read({ on: "pattern", pattern: "spoon" })).toThrow(/"c\.pattern" must be one of|"c\.pattern" must be/);
    const say = (raw: object) => conditionOf(read(raw)).say(read(raw), market);
    expect(say({ on: "pattern", pattern: "flag", way: "up", rung: "PT4H" })).toBe(
      "a flag up is confirmed up on a 4 h candle",
    );
    expect(say({ on: "pattern", pattern: "any", event: "met", rung: "P1D" })).toBe("a pattern is met on a day candle");
    expect(say({ on: "pattern", pattern: "wedge", way: "either", rung: "P1D" })).toBe(
      "one of wedges is confirmed on a day candle",
    );
  });
  it("hangs on all the bars there are: whoever goes on is told them again", () => {
    const calendar = new Calendar(ALL_HOURS);
    const terms = read({ on: "pattern", pattern: "flag", rung: "P1D" });
    expect(warmFrom(needsOf([terms]), asInstant(Date.UTC(2024, 5, 1)), calendar)).toBe(EVER);
  });
});

describe("candles of every name as a condition", () => {
  it.each([
    ["pin up", "pin", "up"],
    ["inside", "inside", undefined],
    ["outside down", "outside", "down"],
    ["star up", "star", "up"],
    ["three down", "three", "down"],
  ] as const)("%s: at the closes it is seen", (pattern, name, way) => {
    const expected = Array.from({ length: series.length }, (_, i) => i).filter((i) =>
      candlesAt(series, i, 0.01, { names: [name] }).some((one) => way === undefined || one.way === way),
    );
    const judged = judgedBy(read({ on: "candle", pattern, rung: "P1D" }));
    expect(judged.flatMap(({ met }, i) => (met ? [i] : []))).toEqual(expected);
    expect(expected.length).toBeGreaterThan(2);
  });
  it("those of three bars are told two bars before the one that is made", () => {
    const calendar = new Calendar(ALL_HOURS);
    const from = (pattern: string) =>
      warmFrom(needsOf([read({ on: "candle", pattern, rung: "P1W" })]), asInstant(Date.UTC(2024, 5, 5)), calendar);
    const week = 7 * 86_400_000;
    expect(from("engulfing") - from("star up")).toBe(week);
  });
  it("are said with their article", () => {
    const say = (pattern: string) =>
      conditionOf(read({ on: "candle", pattern })).say(read({ on: "candle", pattern }), market);
    expect(say("star down")).toMatch(/closes as an evening star$/);
    expect(say("pin up")).toMatch(/closes as a pin up candle$/);
    expect(say("outside up")).toMatch(/closes as an outside up candle$/);
    expect(say("engulfing down")).toMatch(/closes as an engulfing down candle$/);
  });
});
