import { describe, expect, it } from "vitest";
import { readDto } from "#contracts/read";
import { SaveRungSetDto } from "#contracts/rungs";
import { DEFAULT_SET, highToLow, nextInWalk } from "#core/time/rungs";
import { anAnalyst, failureOf, withTables } from "../testing.ts";
import { chooseRungSet, removeRungSet, rungSetsOf, saveRungSet } from "./rungSets.ts";

withTables();

const set = (name: string, change: Partial<SaveRungSetDto> = {}): SaveRungSetDto => ({
  id: "",
  version: 0,
  name,
  rungs: [
    { rung: "PT45M", role: "tradable" },
    { rung: "P1W", role: "reading" },
    { rung: "PT6H", role: "tradable" },
  ],
  walk: "up",
  chosen: true,
  ...change,
});

describe("rung sets", () => {
  it("everybody begins with the same one, and uses what was chosen last", async () => {
    const { id } = await anAnalyst();
    expect(await rungSetsOf(id)).toEqual({ chosen: DEFAULT_SET, sets: [DEFAULT_SET] });
    const odd = await saveRungSet(set("Odd hours"), id);
    expect(odd.rungs.map(({ rung }) => rung)).toEqual(["P1W", "PT6H", "PT45M"]);
    await saveRungSet(set("Other"), id);
    expect((await rungSetsOf(id)).chosen.name).toBe("Other");
    await chooseRungSet(odd.id, id);
    expect((await rungSetsOf(id)).chosen).toEqual(odd);
    await chooseRungSet("", id);
    expect((await rungSetsOf(id)).chosen).toEqual(DEFAULT_SET);
  });
  it("a set is one analyst's: another neither sees, changes, chooses nor removes it", async () => {
    const [one, two] = [await anAnalyst(), await anAnalyst()];
    const { id } = await saveRungSet(set("Mine"), one.id);
    expect((await rungSetsOf(two.id)).sets).toHaveLength(1);
    for (const attempt of [
      () => saveRungSet(set("Mine", { id, version: 1 }), two.id),
      () => chooseRungSet(id, two.id),
      () => removeRungSet(id, two.id),
    ])
      expect(await failureOf(attempt())).toMatchObject({ code: "not-found" });
    await removeRungSet(id, one.id);
    expect((await rungSetsOf(one.id)).chosen).toEqual(DEFAULT_SET);
  });
  it("a stale save, a name that is taken, and two rungs of one length are refused", async () => {
    const { id } = await anAnalyst();
    const saved = await saveRungSet(set("A"), id);
    await saveRungSet(set("A", { id: saved.id, version: 1, walk: "down" }), id);
    expect(await failureOf(saveRungSet(set("A", { id: saved.id, version: 1 }), id))).toMatchObject({ code: "stale" });
    expect(await failureOf(saveRungSet(set("A"), id))).toMatchObject({ code: "taken" });
    const twice = set("B", {
      rungs: [
        { rung: "PT60M", role: "tradable" },
        { rung: "PT1H", role: "reading" },
      ],
    });
    expect(await failureOf(saveRungSet(twice, id))).toMatchObject({ code: "twice" });
  });
  it.each([
    ["name", { name: "" }],
    ["rungs", { rungs: [] }],
    ["rungs.0.rung", { rungs: [{ rung: "an hour", role: "reading" }] }],
    ["rungs.0.role", { rungs: [{ rung: "PT1H", role: "any" }] }],
    ["walk", { walk: "sideways" }],
  ])("%s is told at its field", (field, change) => {
    const read = readDto(SaveRungSetDto, { ...set("A"), ...change });
    expect(read.ok ? {} : read.fields).toHaveProperty([field]);
  });
});

describe("walking a set", () => {
  const rungs = highToLow([
    { rung: "PT1H", role: "tradable" },
    { rung: "P1D", role: "reading" },
    { rung: "PT5M", role: "tradable" },
  ]);
  it.each([
    ["down", [undefined, "P1D"], ["P1D", "PT1H"], ["PT5M", undefined]],
    ["up", [undefined, "PT5M"], ["PT5M", "PT1H"], ["P1D", undefined]],
  ] as const)("%s, from one to the next and no further", (walk, ...steps) => {
    for (const [from, to] of steps) expect(nextInWalk({ rungs, walk }, from)).toBe(to);
  });
});
