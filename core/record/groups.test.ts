import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { figuresOf, GROUPINGS, groupedRecord, type RecordedCall } from "#core/record/groups";
import { factorText, fallText, hitsText, meanText } from "#core/record/groupText";

const DAY = 86_400_000;
const NAMES = ["Grey wheat", "Sable tin", "Ember cocoa"];

/** A call on the `market`th market that ended on day `end` with `r`, without an entry or is not over. */
function call(market: number, end: number, r?: number, isOver = true): RecordedCall {
  return {
    ...{ market: { id: `m${market}`, name: NAMES[market] }, direction: market === 0 ? "long" : "short" },
    ...{ kind: "Morning", isOver, triggered: r !== undefined, ambiguous: false, at: end * DAY },
    ...(isOver ? { end: end * DAY } : {}),
    ...(r === undefined ? {} : { r }),
  };
}

// Worked by hand.
const CALLS = [
  call(0, 3, 2),
  call(0, 10, -1),
  call(0, 40),
  call(1, 35, -1),
  call(1, 36, -1),
  call(2, 50, undefined, false),
];

describe("the figures of a record by group", () => {
  it("count each call once, in its own group, the largest group first", () => {
    const groups = groupedRecord(CALLS, "market").map(({ name, stated, open, notEntered, n, hits, mean }) => [
      ...[name, stated, open, notEntered, n, hits, mean],
    ]);
    expect(groups).toEqual([
      ["Grey wheat", 3, 0, 1, 2, 1, 0.5],
      ["Sable tin", 2, 0, 0, 2, 0, -1],
      ["Ember cocoa", 1, 1, 0, 0, 0, undefined],
    ]);
    expect(groupedRecord(CALLS, "direction").map(({ name, stated }) => [name, stated])).toEqual([
      ["long", 3],
      ["short", 3],
    ]);
  });
  it("months are those trades ended in, in their order; what is not over is in none", () => {
    const months = groupedRecord([...CALLS].reverse(), "month").map(({ name, stated, n }) => [name, stated, n]);
    expect(months).toEqual([
      ["1970-01", 2, 2],
      ["1970-02", 3, 2],
    ]);
  });
  it("together they are the whole, whatever they are put together by, and results add up", () => {
    const drawn = fc.array(
      fc.tuple(fc.nat(2), fc.nat(90), fc.option(fc.integer({ min: -4, max: 12 }), { nil: undefined }), fc.boolean()),
      { maxLength: 40 },
    );
    fc.assert(
      fc.property(drawn, fc.constantFrom(...GROUPINGS), (rows, by) => {
        // Quarters of R add up exactly.
        const calls = rows.map(([market, end, r, isOver]) =>
          call(market, end, isOver && r !== undefined ? r / 4 : undefined, isOver),
        );
        const whole = figuresOf(by === "month" ? calls.filter(({ isOver }) => isOver) : calls, "all");
        const groups = groupedRecord(calls, by);
        for (const key of ["stated", "open", "notEntered", "n", "hits"] as const)
          expect(groups.reduce((sum, group) => sum + group[key], 0)).toBe(whole[key]);
        const sumOf = ({ curve }: { curve: { r: number }[] }) => curve.at(-1)?.r ?? 0;
        expect(groups.reduce((sum, group) => sum + sumOf(group), 0)).toBe(sumOf(whole));
      }),
    );
  });
});

describe("its words", () => {
  const many = Array.from({ length: 30 }, (_, i) => call(0, i, i % 3 === 0 ? 2 : -1));
  it("of few trades tell their number alone, of none that none is over", () => {
    const few = figuresOf(many.slice(0, 19), "all");
    expect([hitsText(few), meanText(few), factorText(few)]).toEqual(["7 of 19", "too few to tell", ""]);
    const none = figuresOf(CALLS.slice(5), "all");
    expect([hitsText(none), meanText(none), factorText(none), fallText(none)]).toEqual(["none over", "", "", ""]);
  });
  // 10 of 30: Wilson's 95 % interval is 19.2 to 51.2 % (E. B. Wilson, 1927; worked out by hand from the formula).
  it("of many tell a share, an average and chance, each with its interval", () => {
    const whole = figuresOf(many, "all");
    expect(hitsText(whole)).toBe("10 of 30, 33 % (19 to 51 %)");
    expect(meanText(whole)).toMatch(/^\+0\.00 R \(.0\.\d\d R to \+0\.\d\d R\): no better than chance$/);
    expect(factorText(whole)).toBe("1.00");
    const won = figuresOf(
      many.map((one) => ({ ...one, r: one.r === 2 ? 2 : 0.5 })),
      "all",
    );
    expect(meanText(won)).toMatch(/: better than chance$/);
    expect(factorText(won)).toBe("");
    const lost = figuresOf(
      many.map((one) => ({ ...one, r: one.r === 2 ? -0.5 : -1 })),
      "all",
    );
    expect(meanText(lost)).toMatch(/: worse than chance$/);
  });
  it("tell how far it fell in the order trades ended, whatever order they are listed in", () => {
    const rows = [call(0, 5, 1), call(0, 1, 2), call(0, 3, -1), call(0, 2, -1)];
    const text = fallText(figuresOf(rows, "all"));
    expect(text).toMatch(/^One after the other they come to \+1\.00 R; /);
    expect(text).toMatch(/the deepest fall on the way was \u22122\.00 R, at most 2 lost in a row\.$/);
    expect(fallText(figuresOf([call(0, 1, 1)], "all"))).toMatch(/ and never fell on the way\.$/);
  });
});
