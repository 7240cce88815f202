import { describe, expect, it } from "vitest";
import { LookRow, RoundRow, VerdictRow } from "../database/models.ts";
import { aMarket, anAnalyst, failureOf, setClock, withTables } from "../testing.ts";
import { keepEvening } from "./evening.ts";
import { listOf, listsOf, removeList, saveList } from "./lists.ts";
import { lastRemarks, openRoundOf, pastRounds, sayInRound } from "./rounds.ts";

withTables();

const NOW = Date.UTC(2026, 9, 14, 6);
const HOUR = 3_600_000;

describe("a round", () => {
  it("begins with the first look, counts in its day, and ends with a summary", async () => {
    const { id } = await anAnalyst();
    await aMarket("tin");
    await setClock(NOW);
    expect(await openRoundOf(id, "", NOW)).toEqual({ round: null, today: 0 });
    await sayInRound("", [{ step: "look", market: "tin", rung: "P1D", at: NOW - 5 }], id);
    const { round, today } = await openRoundOf(id, "", NOW);
    expect([round?.startedAt, today]).toEqual([NOW, 1]);
    await setClock(NOW + HOUR);
    await sayInRound(
      "",
      [
        { step: "verdict", market: "tin", rung: "P1D", verdict: "plan", remark: "back at 404" },
        { step: "end", summary: "tin back at 404", stops: 6, looked: 5 },
      ],
      id,
    );
    expect(await openRoundOf(id, "", NOW + HOUR)).toEqual({ round: null, today: 1 });
    expect(await pastRounds(id)).toMatchObject([
      {
        kind: "round",
        startedAt: NOW,
        endedAt: NOW + HOUR,
        summary: "tin back at 404",
        stops: 6,
        looked: 5,
        verdicts: [{ market: "tin", name: "tin", verdict: "plan", remark: "back at 404" }],
      },
    ]);
    expect((await lastRemarks(id, undefined)).get("tin")).toMatchObject({ remark: "back at 404" });
    // The next day begins to count anew.
    expect((await openRoundOf(id, "", NOW + 24 * HOUR)).today).toBe(0);
  });
  it("said twice is said once; the last word on a market stands; a look from the future is one of now", async () => {
    const { id } = await anAnalyst();
    await aMarket("oil");
    await setClock(NOW);
    const steps = [
      { step: "look" as const, market: "oil", rung: "P1D", at: NOW + 1e9 },
      { step: "verdict" as const, market: "oil", rung: "P1D", verdict: "watch" as const },
    ];
    await sayInRound("", steps, id);
    await sayInRound("", steps, id);
    await sayInRound("", [{ step: "verdict", market: "oil", rung: "PT4H", verdict: "plan" }], id);
    expect(await RoundRow.count({ where: { accountId: id } })).toBe(1);
    expect(
      (await VerdictRow.findAll({ where: { marketId: "oil" } })).map(({ rung, verdict }) => [rung, verdict]),
    ).toEqual([["PT4H", "plan"]]);
    expect((await LookRow.findAll({ where: { accountId: id } })).map(({ lookedAt }) => lookedAt)).toEqual([NOW]);
  });
  it("one step that cannot be written leaves the others unwritten", async () => {
    const { id } = await anAnalyst();
    await aMarket("gas");
    await setClock(NOW);
    expect(
      (
        await failureOf(
          sayInRound(
            "",
            [
              { step: "look", market: "gas", rung: "P1D" },
              { step: "look", market: "nowhere", rung: "P1D" },
            ],
            id,
          ),
        )
      ).code,
    ).toBe("market");
    expect([
      await RoundRow.count({ where: { accountId: id } }),
      await LookRow.count({ where: { accountId: id } }),
    ]).toEqual([0, 0]);
  });
  it(
    "nobody went on with for half a day is over, and so is one of a future that a feed was put " + "back from",
    async () => {
      const { id } = await anAnalyst();
      await aMarket("wheat");
      await setClock(NOW);
      await sayInRound("", [{ step: "look", market: "wheat", rung: "P1D" }], id);
      expect((await openRoundOf(id, "", NOW + 11 * HOUR)).round).not.toBeNull();
      expect((await openRoundOf(id, "", NOW + 13 * HOUR)).round).toBeNull();
      expect((await openRoundOf(id, "", NOW - HOUR)).round).toBeNull();
      await setClock(NOW + 13 * HOUR);
      await sayInRound("", [{ step: "look", market: "wheat", rung: "P1D" }], id);
      expect((await pastRounds(id)).map(({ endedAt }) => endedAt)).toEqual([null, NOW + 13 * HOUR]);
    },
  );
  it("of one analyst and list is none of another", async () => {
    const [{ id }, { id: other }] = [await anAnalyst(), await anAnalyst()];
    await aMarket("zinc");
    await setClock(NOW);
    const list = await saveList({ id: "", name: "Mine", markets: ["zinc"], rare: false }, id);
    await sayInRound(list, [{ step: "look", market: "zinc", rung: "P1D" }], id);
    expect((await openRoundOf(id, "", NOW)).round).toBeNull();
    expect((await openRoundOf(id, list, NOW)).round).not.toBeNull();
    expect((await openRoundOf(other, list, NOW)).round).toBeNull();
  });
});

describe("lists", () => {
  it(
    "keep their own order; rarely looked-at ones take their markets from the list of all, which is parted " + "by kind",
    async () => {
      const { id } = await anAnalyst();
      for (const [name, kind] of [
        ["b-share", "share"],
        ["a-share", "share"],
        ["z-pair", "currency"],
        ["odd", "other"],
      ])
        await (await aMarket(name)).update({ kind });
      const namesOf = async (list: string) =>
        (await listOf(id, list)).markets.map((market) => market.id).filter((one) => /share|pair|odd/.test(one));
      expect(await namesOf("")).toEqual(["z-pair", "a-share", "b-share", "odd"]);
      const own = await saveList(
        { id: "", name: " Asked for ", markets: ["odd", "b-share", "odd", "nowhere"], rare: true },
        id,
      );
      expect(await namesOf(own)).toEqual(["odd", "b-share"]);
      expect(await namesOf("")).toEqual(["z-pair", "a-share"]);
      expect(await listsOf(id)).toEqual([{ id: own, name: "Asked for", markets: ["odd", "b-share"], rare: true }]);
      // Another analyst's list is none of ours, and a list that is gone is the list of all.
      const { id: other } = await anAnalyst();
      expect((await listOf(other, own)).list.id).toBe("");
      expect((await failureOf(saveList({ id: own, name: "Theirs", markets: ["odd"], rare: false }, other))).code).toBe(
        "not-found",
      );
      expect((await failureOf(saveList({ id: "", name: "Asked for", markets: ["odd"], rare: false }, id))).code).toBe(
        "taken",
      );
      expect((await failureOf(saveList({ id: "", name: "Empty", markets: ["nowhere"], rare: false }, id))).code).toBe(
        "empty",
      );
      await removeList(own, id);
      expect(await namesOf("")).toContain("odd");
      expect((await failureOf(removeList(own, id))).code).toBe("not-found");
    },
  );
});

describe("the last words on a market", () => {
  it("a bare nothing takes back what was watched and leaves the remark", async () => {
    const { id } = await anAnalyst();
    await aMarket("resin");
    await setClock(NOW);
    const say = (verdict: "watch" | "nothing", remark = "") =>
      sayInRound(
        "",
        [{ step: "verdict", market: "resin", rung: "P1D", verdict, remark } as never, { step: "end" } as never],
        id,
      );
    const last = async () => (await lastRemarks(id, undefined)).get("resin");
    await say("nothing");
    expect(await last()).toBeUndefined();
    await setClock(NOW + 3_600_000);
    await say("watch", "back at 404");
    expect(await last()).toMatchObject({ verdict: "watch", remark: "back at 404" });
    await setClock(NOW + 7_200_000);
    await say("nothing");
    expect(await last()).toMatchObject({ verdict: "nothing", remark: "back at 404" });
  });
});

describe("an evening", () => {
  it("leaves its words to the morning, as one among the rounds that none goes on with", async () => {
    const { id } = await anAnalyst();
    await aMarket("cocoa");
    await aMarket("salt");
    await setClock(NOW);
    await keepEvening(
      {
        remarks: [
          { market: "cocoa", verdict: "watch", remark: " new supply above " },
          { market: "salt", verdict: "nothing", remark: "" },
          { market: "nowhere", verdict: "plan", remark: "x" },
        ],
      },
      id,
    );
    expect((await openRoundOf(id, "", NOW)).round).toBeNull();
    expect(
      [...(await lastRemarks(id, undefined))].map(([market, { verdict, remark }]) => [market, verdict, remark]),
    ).toEqual([["cocoa", "watch", "new supply above"]]);
    expect((await pastRounds(id))[0]).toMatchObject({
      kind: "evening",
      summary: "1 market to remember in the morning.",
    });
  });
});
