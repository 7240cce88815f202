import { randomUUID } from "node:crypto";
import { describe, expect, it } from "vitest";
import { appendBars, decode } from "../bars/chunks.ts";
import { transact } from "../database/connection.ts";
import { applySteps } from "../desk/marks.ts";
import { aMarket, anAnalyst, failureOf, minutes, setClock, withTables } from "../testing.ts";
import { ClockRow } from "../database/models.ts";
import { advance, setSpeed } from "../intake/feed.ts";
import { liveMessages, type LiveMessage } from "./live.ts";

withTables();

const START = Date.UTC(2024, 0, 2);
const MINUTE = 60_000;

async function aFedMarket() {
  const market = await aMarket();
  await transact(async (transaction) => {
    await appendBars({ marketId: market.id, base: "PT1M", shelf: "live" }, minutes(START, [10, 11, 12]), transaction);
    await appendBars(
      { marketId: market.id, base: "PT1M", shelf: "tape" },
      minutes(START + 3 * MINUTE, [13, 14, 15, 16]),
      transaction,
    );
  });
  await setClock(START + 3 * MINUTE);
  return market;
}

const closes = ({ charts: [chart] }: LiveMessage) => [...decode(Buffer.from(chart.bars, "base64")).close];
const told = ({ charts }: LiveMessage) => charts.length > 0;
const open = (market: string, ...rungs: string[]) => rungs.map((rung) => ({ market, rung, hours: "all" as const }));

/** Reads messages until one satisfies, at most a dozen. */
async function next(
  messages: AsyncGenerator<LiveMessage>,
  wanted: (message: LiveMessage) => boolean,
): Promise<LiveMessage> {
  for (let i = 0; i < 12; i++) {
    const { value, done } = await messages.next();
    if (done) break;
    if (wanted(value)) return value;
  }
  throw new Error("No such message came.");
}

describe("an open chart", () => {
  it("is told the last bar at once, then each new one with the bar that was unfinished", async () => {
    const market = await aFedMarket();
    const abort = new AbortController();
    const messages = liveMessages(open(market.id, "PT5M"), abort.signal);
    const first = await next(messages, told);
    expect(closes(first)).toEqual([12]);
    await advance(3);
    const second = await next(messages, (message) => told(message) && message.now === START + 6 * MINUTE);
    // The five-minute bar that was being made has closed at 14, and the next one stands at 15.
    expect(closes(second)).toEqual([14, 15]);
    abort.abort();
    expect((await messages.next()).done).toBe(true);
  });
  it("one page has several charts told together, and that somebody changed the marks", async () => {
    const [market, author] = [await aFedMarket(), (await anAnalyst()).id];
    const abort = new AbortController();
    const messages = liveMessages([...open(market.id, "PT1M", "PT5M"), ...open("nowhere", "P1D")], abort.signal);
    const first = await next(messages, told);
    expect([first.charts.map(({ rung }) => rung), first.marked]).toEqual([["PT1M", "PT5M"], { [market.id]: 0 }]);
    const mark = {
      id: randomUUID(),
      kind: "level",
      rung: "P1D",
      anchors: [{ time: START, price: 5 }],
      props: {},
      note: "",
    };
    await applySteps(market.id, [{ id: randomUUID(), step: "set", version: 0, mark }], author);
    await next(messages, ({ marked }) => marked[market.id] === 1);
    abort.abort();
  });
  it("is told the clock though its market has no new bars", async () => {
    const market = await aFedMarket();
    await advance(4);
    const abort = new AbortController();
    const messages = liveMessages(open(market.id, "P1D"), abort.signal);
    await next(messages, told);
    await advance(600);
    const message = await next(messages, ({ now }) => now === START + 607 * MINUTE);
    expect(message.charts).toEqual([]);
    abort.abort();
  });
});

describe("the feed", () => {
  it("never goes back, and plays nothing twice when its clock is put back", async () => {
    const market = await aFedMarket();
    await advance(4);
    await setClock(START);
    await advance(5);
    const abort = new AbortController();
    const { value } = await liveMessages(open(market.id, "PT1M"), abort.signal).next();
    abort.abort();
    expect(closes(value as LiveMessage)).toEqual([16]);
  });
  it("a desk without a feed says so", async () => {
    await ClockRow.destroy({ where: {} });
    expect(await failureOf(setSpeed(10))).toMatchObject({ code: "no-feed" });
    expect(await failureOf(advance(1))).toMatchObject({ code: "no-feed" });
  });
});
