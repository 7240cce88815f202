import { describe, expect, it } from "vitest";
import { advancePattern, FORMING, type PatternLife } from "#core/patterns/life";
import { level, type PatternForm } from "#core/patterns/shape";

/** Waits for a close above 110 or below 100; 10 high; may be confirmed up to bar 5. */
const FORM: PatternForm = {
  ...{ confirm: level(110), against: level(100), isEither: false, height: 10 },
  ...{ stop: 104, otherStop: 108, until: 5 },
};
type Three = [high: number, low: number, close: number];

/** The life after bars given as [high, low, close], the first of them bar 1. */
function after(bars: readonly Three[], { form = FORM, sign = 1 as 1 | -1 } = {}): PatternLife {
  return bars.reduce<PatternLife>(
    (life, [high, low, close], n) => advancePattern(form, sign, life, { high, low, close }, n + 1, 0.01),
    FORMING,
  );
}
const quiet: Three = [106, 104, 105];
const broke: Three = [111, 109, 110.01];

// Common practice, no source: a break counts by its close, a target by a wick, a stop by a close.
describe("the life of a pattern", () => {
  it.each<[string, Three[], Partial<PatternLife>]>([
    ["waits", [quiet], { state: "forming" }],
    ["a wick beyond the line confirms nothing", [[111, 104, 110]], { state: "forming" }],
    [
      "a close beyond it does",
      [broke],
      { state: "confirmed", way: 1, confirmedAt: 1, broke: 110, entry: 110.01, target: 120, stop: 104 },
    ],
    ["a close beyond the other side negates", [[101, 99, 99.99]], { state: "negated", endedAt: 1 }],
    ["on it not", [[101, 99, 100]], { state: "forming" }],
    [
      "time negates what nothing confirmed",
      [quiet, quiet, quiet, quiet, quiet],
      { state: "negated", endedAt: 5, isLate: true },
    ],
    ["its last bar may still confirm", [quiet, quiet, quiet, quiet, broke], { state: "confirmed", confirmedAt: 5 }],
    [
      "a wick back to the line that closes beyond it is a retest",
      [broke, [112, 110, 111]],
      { state: "confirmed", retestedAt: 2 },
    ],
    ["a tick short of it is none", [broke, [112, 110.01, 111]], { state: "confirmed" }],
    ["a close back behind the line is none", [broke, [112, 108, 109]], { state: "confirmed" }],
    ["the first retest stays", [broke, [112, 110, 111], [112, 110, 111]], { retestedAt: 2 }],
    ["a wick at the target meets it", [broke, [120, 111, 115]], { state: "met", endedAt: 2 }],
    ["a tick short does not", [broke, [119.99, 111, 115]], { state: "confirmed" }],
    ["a close beyond the stop fails", [broke, [112, 103, 103.99]], { state: "failed", endedAt: 2 }],
    ["at the stop not", [broke, [112, 103, 104]], { state: "confirmed" }],
    ["a bar that does both failed", [broke, [120, 103, 103]], { state: "failed" }],
    ["what is over stays so", [broke, [120, 111, 115], [112, 103, 103]], { state: "met", endedAt: 2 }],
  ])("%s", (_, bars, expected) => {
    const life = after(bars);
    expect(life).toMatchObject(expected);
    if (!("retestedAt" in expected)) expect(life.retestedAt).toBeUndefined();
  });

  it("upside down the same prices are negative", () => {
    const form = { ...FORM, confirm: level(-90), against: level(-100), stop: -96, otherStop: -92 };
    expect(after([[91, 88, 89.99]], { form, sign: -1 })).toMatchObject({
      ...{ state: "confirmed", way: -1, broke: 90, target: 80, stop: 96 },
    });
    expect(
      after(
        [
          [91, 88, 89.99],
          [85, 80, 82],
        ],
        { form, sign: -1 },
      ).state,
    ).toBe("met");
    expect(
      after(
        [
          [91, 88, 89.99],
          [90, 85, 86],
        ],
        { form, sign: -1 },
      ),
    ).toMatchObject({ retestedAt: 2 });
    expect(after([[97, 88, 96.01]], { form, sign: -1 }).state).toBe("forming");
    expect(
      after(
        [
          [91, 88, 89.99],
          [97, 88, 96.01],
        ],
        { form, sign: -1 },
      ).state,
    ).toBe("failed");
  });
  it("one that may go either way is confirmed downwards with a stop of its own", () => {
    const form = { ...FORM, isEither: true };
    const down = after([[101, 99, 99.99]], { form });
    expect(down).toMatchObject({ state: "confirmed", way: -1, broke: 100, target: 90, stop: 108 });
    expect(
      after(
        [
          [101, 99, 99.99],
          [100, 95, 96],
        ],
        { form },
      ),
    ).toMatchObject({ retestedAt: 2 });
    expect(
      after(
        [
          [101, 99, 99.99],
          [109, 95, 108.01],
        ],
        { form },
      ).state,
    ).toBe("failed");
    expect(
      after(
        [
          [101, 99, 99.99],
          [98, 90, 92],
        ],
        { form },
      ).state,
    ).toBe("met");
  });
  it("a price a pattern names stands instead of its height", () =>
    expect(after([broke], { form: { ...FORM, target: 113 } }).target).toBe(113));
  it("a target at or below 0 is none where prices are above it, and can be where they are not", () => {
    const form = { ...FORM, confirm: level(-4), against: level(-20), stop: -12, otherStop: -6 };
    const left = after([[5, 2, 3]], { form, sign: -1 });
    expect(left).toMatchObject({ state: "confirmed", way: -1 });
    expect(left).not.toHaveProperty("target");
    expect(
      after(
        [
          [5, 2, 3],
          [5, 0.01, 1],
        ],
        { form, sign: -1 },
      ).state,
    ).toBe("confirmed");
    const below = { ...FORM, confirm: level(4), against: level(20), stop: 12, otherStop: 6 };
    expect(
      after([[-2, -5, -4.5]], { form: { ...below, confirm: level(4), against: level(-20) }, sign: -1 }),
    ).toMatchObject({
      target: -14,
    });
  });
  it("nothing new is the same object", () => expect(after([quiet])).toBe(FORMING));
});
