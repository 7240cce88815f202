import { randomUUID } from "node:crypto";
import { describe, expect, it } from "vitest";
import { fromBars } from "#core/series/series";
import { DEFAULT_SET } from "#core/time/rungs";
import { appendBars } from "../bars/chunks.ts";
import { transact } from "../database/connection.ts";
import { BoardStanding } from "../database/models.ts";
import { applySteps } from "../desk/marks.ts";
import { saveEvent } from "../events/events.ts";
import { aMarket, anAnalyst, failureOf, setClock, withTables } from "../testing.ts";
import { boardOf, boardRow } from "./board.ts";
import { sayInRound } from "./rounds.ts";

withTables();

const START = Date.UTC(2024, 0, 1);
const DAY = 86_400_000;
const NOW = START + 119.5 * DAY;
const rungs = DEFAULT_SET.rungs.map(({ rung }) => rung);
const bars = Array.from({ length: 120 }, (_, i) => ({
  time: START + i * DAY,
  open: 100 + i,
  high: 103 + i,
  low: 99 + i - 3 * (i % 5),
  close: 101 + i - (i % 5),
  volume: 1,
}));

async function aRichMarket(id: string = randomUUID()) {
  const market = await aMarket(id);
  await transact((transaction) =>
    appendBars({ marketId: id, base: "P1D", shelf: "live" }, fromBars(bars), transaction),
  );
  await setClock(NOW);
  return market;
}

const mark = (kind: string, props: Record<string, unknown>, anchors: { time: number; price: number }[], rung = "P1D") =>
  ({
    id: randomUUID(),
    step: "set",
    version: 0,
    mark: { id: randomUUID(), kind, rung, anchors, props, note: "" },
  }) as never;

describe("the board of the round", () => {
  it("comes at once with what is kept; what is not is asked for market by market, and kept from then on", async () => {
    const { id } = await anAnalyst();
    const [rich, bare] = [await aRichMarket("rich"), await aMarket("bare")];
    const first = await boardOf(id);
    expect(first).toMatchObject({
      rungs,
      tradable: ["P1D", "PT4H", "PT1H", "PT15M", "PT5M", "PT1M"],
      round: null,
      today: 0,
    });
    expect(first.rows.map(({ name, cells, standing }) => [name, cells, standing])).toEqual([
      ["bare", rungs.map(() => null), null],
      ["rich", rungs.map(() => null), null],
    ]);
    const row = await boardRow(rich.id, id);
    expect(row.cells.map((cell) => cell?.rung)).toEqual(rungs);
    // The last day is still being made: the one before is the last that closed.
    expect(row.cells.find((cell) => cell?.rung === "P1D")).toMatchObject({
      close: bars[118].close,
      direction: "up",
      own: false,
      closedAt: START + 119 * DAY,
      closesAt: START + 120 * DAY,
    });
    expect(row.standing).toMatchObject({ price: bars[118].close, range: { today: 16 } });
    expect(row.validUntil).toBe(START + 120 * DAY);
    expect(row.cells.find((cell) => cell?.rung === "PT1H")?.close).toBeUndefined();
    expect((await boardRow(bare.id, id)).cells.every((cell) => cell?.close === undefined)).toBe(true);
    const kept = (await boardOf(id)).rows.find((one) => one.id === rich.id);
    // Said from what is kept as it was said when it was worked out.
    expect(kept).toEqual(row);
    expect((await failureOf(boardRow("nowhere", id))).code).toBe("not-found");
  });
  it(
    "still shows what was kept after the next close, and says that it no longer holds; a changed mark ends " +
      "it, too",
    async () => {
      const { id } = await anAnalyst();
      const market = await aRichMarket();
      await boardRow(market.id, id);
      const rowNow = async () => (await boardOf(id)).rows.find((one) => one.id === market.id);
      await setClock(START + 121 * DAY);
      const later = await rowNow();
      expect(later?.cells.find((cell) => cell?.rung === "P1D")?.close).toBe(bars[118].close);
      expect(later?.validUntil).toBeLessThanOrEqual(START + 121 * DAY);
      await setClock(NOW);
      expect((await rowNow())?.validUntil).toBeGreaterThan(NOW);
      await applySteps(market.id, [mark("level", { label: "x" }, [{ time: START, price: 200 }])], id);
      expect((await rowNow())?.validUntil).toBe(0);
      await boardRow(market.id, id);
      await market.increment("history");
      expect((await rowNow())?.standing).toBeNull();
      expect((await rowNow())?.cells.every((cell) => cell === null)).toBe(true);
    },
  );
  it(
    "of a feed that stands, of a market without bars, and of a rung that no base can make is whole, and " +
      "holds for a while",
    async () => {
      const { id } = await anAnalyst();
      const [old, bare] = [await aRichMarket(), await aMarket()];
      const later = START + 500 * DAY;
      await setClock(later);
      for (const market of [old, bare]) {
        const row = await boardRow(market.id, id);
        expect(row.cells).not.toContain(null);
        expect(row.standing).not.toBeNull();
        expect(row.validUntil).toBeGreaterThan(later);
      }
      expect(
        (await boardRow(old.id, id)).cells.filter((cell) => cell?.close !== undefined).map((cell) => cell?.rung),
      ).toEqual(["P1Y", "P3M", "P1M", "P1W", "P1D"]);
    },
  );
  it("shows the analysts' own bearing before the machine's, and their areas before those of proposals", async () => {
    const { id } = await anAnalyst();
    const market = await aRichMarket();
    const offered = await boardRow(market.id, id);
    expect(offered.standing?.around.length).toBeGreaterThan(0);
    expect(offered.standing?.around.every(({ own }) => !own)).toBe(true);
    const at = bars[118].close;
    await applySteps(
      market.id,
      [
        mark("bearing", { direction: "down", reasons: "" }, [{ time: bars[118].time, price: at }]),
        mark("level", { label: "a" }, [{ time: bars[118].time, price: at + 1 }]),
        mark("level", { label: "b" }, [{ time: bars[90].time, price: at + 1 }], "P1W"),
      ],
      id,
    );
    const row = await boardRow(market.id, id);
    expect(row.cells.find((cell) => cell?.rung === "P1D")).toMatchObject({
      direction: "down",
      own: true,
      machine: "up",
    });
    expect(row.standing?.around.map(({ own, bottom, rungs: of }) => [own, bottom, of])).toEqual([
      [true, at + 1, ["P1W", "P1D"]],
    ]);
    expect(row.standing?.near.map(({ rung }) => rung)).toEqual(["P1W", "P1D"]);
    expect(await BoardStanding.count({ where: { marketId: market.id } })).toBe(1);
  });
  it(
    "carries looks, this round's verdict, the last words before it, and what of today's events touches the " + "market",
    async () => {
      const { id } = await anAnalyst();
      const market = await aRichMarket();
      await market.update({ ties: { currencies: ["Olta"], region: "", sector: "" } });
      await saveEvent({
        id: "",
        kind: "release",
        title: "Wages",
        at: NOW + 3_600_000,
        allDay: false,
        impact: 3,
        currencies: ["Olta"],
        region: "",
        sector: "",
        markets: [],
      });
      await sayInRound(
        "",
        [
          { step: "verdict", market: market.id, rung: "P1D", verdict: "watch", remark: "at the high" },
          { step: "end", summary: "s", stops: 1, looked: 1 },
        ],
        id,
      );
      await sayInRound(
        "",
        [
          { step: "look", market: market.id, rung: "P1D", at: NOW },
          { step: "verdict", market: market.id, rung: "P1D", verdict: "plan", asksAt: START + 120 * DAY },
        ],
        id,
      );
      const row = await boardRow(market.id, id);
      expect(row.events).toMatchObject([{ title: "Wages", why: "Olta", impact: 3 }]);
      expect(row.before).toMatchObject({ verdict: "watch", remark: "at the high" });
      expect(row.verdict).toMatchObject({ verdict: "plan", asksAt: START + 120 * DAY });
      expect(row.cells.find((cell) => cell?.rung === "P1D")?.lookedAt).toBe(NOW);
      // Another analyst has looked at nothing and said nothing.
      const { id: other } = await anAnalyst();
      expect(await boardRow(market.id, other)).toMatchObject({ verdict: null, before: null });
    },
  );
});
