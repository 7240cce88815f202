import { describe, expect, it } from "vitest";
import { changesOf } from "#core/edition/changes";
import type { LevelLine } from "#core/marks/levels";

const market = { decimals: 2, tick: 0.05 };
const level = (label: string, price: number, more: Partial<LevelLine> = {}): LevelLine => ({
  ...{ bottom: price, top: price, role: "level", label, rung: "P1D", status: "fresh", distance: 0 },
  ...more,
});
const call = (id: string, title: string, weight = 60) => ({ id, title, weight });
const changes = (before: LevelLine[], now: LevelLine[], live = now) =>
  changesOf({ edition: 4, levels: before, scenarios: [] }, { levels: now, scenarios: [] }, live, market).levels;

describe("what changed of a market since it was last written of", () => {
  it("is what moved, what went, what is new, and what was touched meanwhile", () => {
    const before = [level("last high", 454.7), level("pivot", 461), level("base", 402), level("lid", 470)];
    const now = [
      level("last high", 455.1),
      level("base", 402, { status: "touched" }),
      level("lid", 470),
      level("gap", 1),
    ];
    expect(changes(before, now)).toEqual([
      "Moved: last high, day, 454.70 to 455.10.",
      "Gone: pivot, day, 461.00.",
      "Base, day, 402.00: fresh, now touched.",
      "New: gap, day, 1.00.",
    ]);
  });
  it("is nothing where a level still stands and is merely no longer among the nearest", () => {
    const far = level("far", 900);
    expect(changes([far], [], [far])).toEqual([]);
  });
  it("of two levels of one name each goes with the nearest", () => {
    const [low, high] = [level("demand", 10), level("demand", 20)];
    expect(changes([low, high], [high, level("demand", 11)])).toEqual(["Moved: demand, day, 10.00 to 11.00."]);
  });
  it("tells calls that came, went, or weigh something else", () => {
    const before = { edition: 4, levels: [], scenarios: [call("a", "A"), call("b", "B", 30)] };
    const now = { levels: [], scenarios: [call("b", "B", 50), call("c", "C", 20)] };
    expect(changesOf(before, now, [], market)).toEqual({
      since: 4,
      levels: [],
      calls: ["No longer called: A.", "B: 30 % became 50 %.", "New call: C."],
    });
  });
});
