import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { SP500_FILE } from "#core/testing/openData";
import { compute } from "./compute.ts";

const lines = readFileSync(SP500_FILE, "utf8").trim().split("\n");
const folder = mkdtempSync("/tmp/compass-worth-");
const file = join(folder, "days.csv");
writeFileSync(file, lines.slice(0, 1001).join("\n"));
const ask = (request: object, more: object = {}) =>
  compute({ bars: { file }, ask: [request], ...more }).answers[0].values;

describe("findings by request", () => {
  const all = ask({ quantity: "findings" });

  it("are rows at their birth, with features of that bar and what became of them", () => {
    const first = all[0] as Record<string, Record<string, unknown>>;
    expect(Object.keys(first)).toEqual([
      ...["timeframe", "kind", "side", "bottom", "top", "knownAt", "features", "outcome"],
    ]);
    expect(first.outcome.result).toMatch(/^(respected|broken|open|untouched)$/);
    for (const { features } of all as { features: Record<string, number> }[]) {
      expect(features).toMatchObject({ width: expect.any(Number) as number, distance: expect.any(Number) as number });
      expect(Object.values(features).every(Number.isFinite)).toBe(true);
    }
  });

  it("as of a day are those known by then, but for what became of them later", () => {
    const asOf = "2002-06-28";
    const birth = ({ outcome: _outcome, ...row }: Record<string, unknown>) => row;
    const before = ask({ quantity: "findings" }, { asOf });
    expect(before.map(birth)).toEqual(all.filter(({ knownAt }) => (knownAt as string) <= asOf).map(birth));
  });

  it("are of the kinds and timeframes asked for; a week that is not over is not there", () => {
    const weeks = ask({ quantity: "findings", timeframes: ["P1W", "P1D"], kinds: ["zone", "gap"] });
    expect(new Set(weeks.map(({ timeframe }) => timeframe))).toEqual(new Set(["P1W", "P1D"]));
    expect(weeks[0].timeframe).toBe("P1W");
    expect(new Set(weeks.map(({ kind }) => kind))).toEqual(new Set(["zone", "gap"]));
    // Nothing within a week changes what the weeks say: it is there when the next one's first day has closed.
    const asOf = (day: number) =>
      ask(
        { quantity: "findings", timeframes: ["P1W"] },
        { asOf: new Date(Date.UTC(2003, 2, day)).toISOString().slice(0, 10) },
      );
    for (let monday = 3; monday < 60; monday += 7) expect(asOf(monday + 4)).toEqual(asOf(monday));
  });

  it("extremes of periods and pivots are findings of the day's bars alone", () => {
    expect(ask({ quantity: "findings", timeframes: ["P1W"], kinds: ["pivot", "periodExtreme"] })).toEqual([]);
    expect(ask({ quantity: "lift", kind: "pivot" }, { timeframe: "P1W" })).toEqual([
      { kind: "pivot", timeframe: "P1W", n: 0, open: 0, untouched: 0, chance: { n: 0 } },
    ]);
  });

  it.each([
    [{ quantity: "findings", kinds: ["lamp"] }, /"kinds\[0\]" must be one of zone/],
    [{ quantity: "findings", kinds: [] }, /"kinds" must be a list/],
    [{ quantity: "findings", timeframes: [] }, /"timeframes" must be a list/],
    [{ quantity: "findings", timeframes: ["PT1H"] }, /do not make bars of PT1H/],
    [{ quantity: "findings", outcome: { horizont: 3 } }, /"outcome" has no field "horizont"/],
    [{ quantity: "findings", outcome: { horizon: 0 } }, /"outcome.horizon" must be a whole number/],
    [{ quantity: "findings", outcome: { away: 101 } }, /"outcome.away" must be above 0/],
    [{ quantity: "lift" }, /"kind"/],
    [{ quantity: "lift", kind: "zone", draws: 1001 }, /"draws" must be a whole number from 1 to 1000/],
  ])("%o is a fault", (request, sentence) => expect(() => ask(request)).toThrow(sentence));
});

describe("lift by request", () => {
  it("is a share, a chance and their difference, each with an interval, and the same for the same seed", () => {
    const [found] = ask({ quantity: "lift", kind: "gap", draws: 5 });
    expect(found).toMatchObject({ kind: "gap", timeframe: "P1D" });
    expect(found.liftInterval).toHaveLength(2);
    expect(ask({ quantity: "lift", kind: "gap", draws: 5, seed: 1 })).toEqual([found]);
    const [other] = ask({ quantity: "lift", kind: "gap", draws: 5, seed: 2 });
    expect(other.share).toBe(found.share);
    expect(other.chance).not.toEqual(found.chance);
  });
});
