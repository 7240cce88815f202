import Papa from "papaparse";
import { beforeAll, describe, expect, it } from "vitest";
import { PARTS } from "#core/edition/parts";
import { WHOLE, type Sight } from "../accounts/plans.ts";
import { FollowUpRow } from "../database/models.ts";
import { advance } from "../intake/feed.ts";
import { aTinEdition, MINUTE } from "../publishingTesting.ts";
import { withTables } from "../testing.ts";
import type { CallLine } from "./calls.ts";
import { askedIn, recordAsCsv, recordSeen } from "./record.ts";

withTables();

let market = "";
let number = 0;
const now = Date.now() + MINUTE;
const asked = (search: string) => askedIn(new URLSearchParams(search));
const seen = (search = "", sight: Sight = WHOLE) => recordSeen(asked(search), sight, now);

/** One call, whose two targets are both reached. */
beforeAll(async () => {
  const world = await aTinEdition();
  [market, number] = [world.market.id, world.number];
  await advance(12);
});

describe("the record somebody may see", () => {
  it("tells how a call ended and what it came to: half at 104, half at 106, of the risk that was planned", async () => {
    const { calls, whole, groups } = await seen();
    const rows = await FollowUpRow.findAll({ where: { edition: number }, order: [["sequence", "ASC"]] });
    const entry = rows.map(({ event }) => event).find(({ event }) => event === "entered")!.price;
    const r = (0.5 * (104 - entry) + 0.5 * (106 - entry)) / (entry - 97.31);
    expect(calls).toHaveLength(1);
    expect(calls[0].ended?.r).toBeCloseTo(r, 9);
    expect(calls[0].ended?.says).toBe("Complete.");
    expect(whole).toMatchObject({ stated: 1, open: 0, notEntered: 0, n: 1, hits: 1 });
    expect(groups?.map(({ name }) => name)).toEqual([calls[0].market.name]);
  });
  it("has no figures and no endings for a plan without orders, and no calls for one without calls", async () => {
    const parts = PARTS.filter((part) => part !== "orders");
    const { calls, whole, groups } = await seen("", { ...WHOLE, parts });
    expect([calls.length, calls[0].ended, whole, groups]).toEqual([1, undefined, undefined, undefined]);
    expect(recordAsCsv(calls)).not.toMatch(/Complete|0\.6/);
    for (const sight of [
      { ...WHOLE, parts: [] },
      { ...WHOLE, kinds: [] },
      { ...WHOLE, wait: 10_000_000 },
    ])
      expect(await seen("", sight)).toMatchObject({ calls: [], choices: { markets: [] } });
  });
  it("is what the address asks for, and everything where it asks for what is not known", async () => {
    const count = async (search: string) => (await seen(search)).calls.length;
    expect(await count(`market=${market}&direction=long`)).toBe(1);
    expect(await count("market=another")).toBe(0);
    expect(await count("direction=short")).toBe(0);
    expect(await count("direction=sideways&kind=nothing&by=colour")).toBe(1);
    expect(asked("by=colour").by).toBe("market");
    const [{ kind: own }] = (await seen()).calls;
    expect(await count(`kind=${own}`)).toBe(1);
    expect(await count(`kind=${own === "morning" ? "close" : "morning"}`)).toBe(0);
  });
});

describe("its table", () => {
  const line: CallLine = {
    ...{ edition: 3, scenarioId: "s", title: '=HYPERLINK("x"), "quoted"', kind: "morning", direction: "long" },
    ...{ market: { id: "m", name: "Tin, March" }, phase: "done", expires: 0 },
    ended: { at: 86_400_000, says: "Stopped at 98.", r: -1, isAmbiguous: true },
  };
  it("is read back by another reader of RFC 4180, and holds no formula", () => {
    const open: CallLine = { ...line, phase: "waiting", ended: undefined };
    const { data, errors } = Papa.parse<Record<string, string>>(recordAsCsv([line, open]).trimEnd(), { header: true });
    expect(errors).toEqual([]);
    expect(data[0]).toEqual({
      ...{ edition: "3", market: "Tin, March", title: `'=HYPERLINK("x"), "quoted"`, kind: "morning" },
      ...{ direction: "long", state: "over", ended: "1970-01-02T00:00:00.000Z", result_r: "-1", ambiguous: "yes" },
      says: "Stopped at 98.",
    });
    expect(data[1]).toMatchObject({ state: "waiting", ended: "", result_r: "", ambiguous: "", says: "" });
  });
});
