import { randomUUID } from "node:crypto";
import { describe, expect, it } from "vitest";
import type { AlertTerms } from "#core/alerts/alert";
import { fromBars, type Bar } from "#core/series/series";
import { appendBars } from "../bars/chunks.ts";
import { barsAppended } from "../watch/changes.ts";
import { lockMarket } from "../bars/markets.ts";
import { transact } from "../database/connection.ts";
import { AlertRow, FiringRow, Market } from "../database/models.ts";
import { applySteps } from "../desk/marks.ts";
import { aMarket, anAnalyst, failureOf, setClock, withTables } from "../testing.ts";
import { alertsOf, firingsOf, newestFiring, removeAlert, seenFirings, setAlert } from "./alerts.ts";

withTables();

const START = Date.UTC(2024, 0, 1);
const MINUTE = 60_000;
const bar = (n: number, low: number, high: number, close = (low + high) / 2): Bar => ({
  time: START + n * MINUTE,
  open: (low + high) / 2,
  high,
  low,
  close,
  volume: 1,
});

async function append(marketId: string, ...bars: Bar[]): Promise<void> {
  await transact(async (transaction) => {
    const market = await lockMarket(marketId, transaction);
    await appendBars({ marketId, base: "PT1M", shelf: "live" }, fromBars(bars), transaction);
    await barsAppended([market], START + 1e9, transaction);
  });
}

const reach = (price: number, change: Partial<AlertTerms> = {}): AlertTerms =>
  ({
    on: "reach",
    at: { bottom: price, top: price, name: "level", leave: 1 },
    again: false,
    note: "",
    ...change,
  }) as AlertTerms;

async function watched(): Promise<{ id: string; account: string }> {
  const { id: account } = await anAnalyst();
  const { id } = await aMarket();
  await setClock(START + 1e9);
  await append(id, bar(0, 99, 101));
  return { id, account };
}

describe("alerts", () => {
  it("fire once when their price is reached, are told in the desk, and wait no longer", async () => {
    const { id, account } = await watched();
    await setAlert(id, { terms: reach(105) }, account);
    const before = await newestFiring();
    await append(id, bar(1, 101, 104), bar(2, 104, 106), bar(3, 104, 106), bar(4, 100, 101), bar(5, 104, 106));
    expect(await newestFiring()).toBeGreaterThan(before);
    expect(await firingsOf(account)).toHaveLength(1);
    const [firing] = await firingsOf(account);
    expect(firing).toMatchObject({
      market: id,
      firedAt: START + 3 * MINUTE,
      says: "Reached level 105.00.",
      seen: false,
    });
    expect((await alertsOf(account)).map(({ active }) => active)).toEqual([false]);
    await seenFirings(firing.number, account);
    expect((await firingsOf(account))[0].seen).toBe(true);
    // Nobody else hears of it, nor can remove it.
    const { id: other } = await anAnalyst();
    expect(await firingsOf(other)).toEqual([]);
    expect((await failureOf(removeAlert(firing.alert, other))).code).toBe("not-found");
    await removeAlert(firing.alert, account);
    expect(await firingsOf(account)).toEqual([]);
  });
  it("fire every time when that was asked, once for each arrival, with the bar that made it", async () => {
    const { id, account } = await watched();
    await setAlert(id, { terms: reach(105, { again: true }) }, account);
    for (let n = 1; n <= 12; n++) {
      await append(id, n % 3 === 0 ? bar(n, 104, 106) : bar(n, 99, 101));
    }
    expect((await firingsOf(account)).map(({ firedAt }) => (firedAt - START) / MINUTE - 1)).toEqual([12, 9, 6, 3]);
  });
  it(
    "a feed that repeats a bar, or says of an old one something else, fires nothing again; one that stands " +
      "fires nothing",
    async () => {
      const { id, account } = await watched();
      await setAlert(id, { terms: reach(105, { again: true }) }, account);
      await append(id, bar(1, 104, 106), bar(2, 99, 101));
      expect(await firingsOf(account)).toHaveLength(1);
      // Going back is refused by the shelf, and changes nothing.
      await expect(append(id, bar(1, 104, 106))).rejects.toThrow();
      const [row] = await AlertRow.findAll({ where: { marketId: id } });
      expect((await Market.findByPk(id))?.toldThrough).toBe(START + 3 * MINUTE);
      expect(await FiringRow.count({ where: { alertId: row.id } })).toBe(1);
    },
  );
  it("on a mark follow it where it is moved, and end when it is removed", async () => {
    const { id, account } = await watched();
    const level = (price: number, version: number, step: "set" | "remove" = "set") => ({
      id: randomUUID(),
      step,
      version,
      mark: {
        id: markId,
        kind: "level",
        rung: "PT1M",
        anchors: [{ time: START, price }],
        props: { label: "old high" },
        note: "",
      },
    });
    const markId = randomUUID();
    await applySteps(id, [level(120, 0) as never], account);
    await setAlert(
      id,
      {
        terms: {
          on: "reach",
          at: { bottom: 120, top: 120, name: "old high", mark: markId, leave: 1 },
          again: true,
          note: "",
        },
      },
      account,
    );
    await append(id, bar(1, 104, 106));
    expect(await firingsOf(account)).toEqual([]);
    await applySteps(id, [level(110, 1) as never], account);
    await append(id, bar(2, 108, 111));
    expect((await firingsOf(account))[0].says).toBe("Reached old high 110.00.");
    await applySteps(id, [level(110, 2, "remove") as never], account);
    await append(id, bar(3, 99, 101));
    expect(await firingsOf(account)).toHaveLength(1);
    expect((await alertsOf(account)).map(({ active }) => active)).toEqual([false]);
  });
  it("on a rung wait for the close of its bar, which the finest bars make", async () => {
    const { id, account } = await watched();
    await setAlert(
      id,
      {
        terms: {
          on: "beyond",
          rung: "PT5M",
          at: { bottom: 105, top: 105, name: "level", leave: 0 },
          again: true,
          note: "",
        },
      },
      account,
    );
    await setAlert(id, { terms: { on: "close", rung: "PT5M", again: false, note: "" } }, account);
    // A wick beyond in the first five minutes, a close beyond in the second.
    await append(id, bar(1, 104, 107, 104.5), bar(2, 103, 106, 104), bar(3, 103, 104), bar(4, 103, 104));
    expect(await firingsOf(account)).toHaveLength(1);
    await append(id, ...[5, 6, 7, 8].map((n) => bar(n, 105, 108, 107)));
    expect(await firingsOf(account)).toHaveLength(1);
    await append(id, bar(9, 105, 108, 107));
    expect((await firingsOf(account)).map(({ says }) => says)).toEqual([
      "5 min closed above level 105.00, at 107.00.",
      "5 min closed at 103.50.",
    ]);
  });
  it("cannot be set without bars, at a mark that is not there, on a rung that is none, or in nonsense", async () => {
    const { id, account } = await watched();
    const { id: bare } = await aMarket();
    expect((await failureOf(setAlert(bare, { terms: reach(1) }, account))).code).toBe("no-bars");
    expect((await failureOf(setAlert("nowhere", { terms: reach(1) }, account))).code).toBe("not-found");
    expect(
      (
        await failureOf(
          setAlert(
            id,
            {
              terms: {
                on: "reach",
                at: { bottom: 1, top: 1, name: "x", mark: randomUUID(), leave: 0 },
                again: false,
                note: "",
              },
            },
            account,
          ),
        )
      ).code,
    ).toBe("not-found");
    for (const terms of [
      { on: "reach" },
      { on: "shift", rung: "PT0M", direction: "sideways", again: true, note: "" },
      { on: "close", rung: "'; DROP", again: false, note: "" },
      { ...reach(1), at: { bottom: 2, top: 1, name: "x", leave: 0 } },
      null,
    ])
      expect(["terms", "timeframe"]).toContain(
        (await failureOf(setAlert(id, { terms: terms as never }, account))).code,
      );
    expect(await alertsOf(account)).toEqual([]);
  });
});
