import { randomUUID } from "node:crypto";
import { expect } from "vitest";
import type { Scenario } from "#core/scenarios/scenario";
import { appendBars } from "./bars/chunks.ts";
import { lockMarket } from "./bars/markets.ts";
import { transact } from "./database/connection.ts";
import { followUpsOf } from "./publishing/editions.ts";
import { aMarket, aPublishedScenario, minutes, setClock } from "./testing.ts";
import { barsAppended } from "./watch/changes.ts";

export const START = Date.UTC(2024, 0, 2);
export const MINUTE = 60_000;

/** Minutes from the nth on at the given closes, stored and told. */
export async function append(marketId: string, n: number, closes: readonly number[]): Promise<void> {
  const until = START + (n + closes.length) * MINUTE;
  await setClock(until);
  await transact(async (transaction) => {
    const market = await lockMarket(marketId, transaction);
    await appendBars({ marketId, base: "PT1M", shelf: "live" }, minutes(START + n * MINUTE, closes), transaction);
    await barsAppended([market], until, transaction);
  });
}

export const said = async (edition: number) =>
  (await followUpsOf(edition)).map(({ event: { event, price } }) => `${event} ${price}`);

/** A close above 101 arms it; in at 102, stop 100, targets 104 and 106. */
const call: Partial<Scenario> = {
  trigger: { event: "closeAbove", price: 101, timeframe: "PT5M" },
  entry: { order: "limit", price: 102 },
  stop: 100,
  targets: [
    { price: 104, share: 0.5 },
    { price: 106, share: 0.5 },
  ],
  invalidation: 99,
};

export async function anArmedCall(): Promise<{ market: string; edition: number }> {
  const { id: market } = await aMarket(randomUUID());
  await append(
    market,
    0,
    Array.from({ length: 10 }, () => 100),
  );
  const edition = await aPublishedScenario(market, call);
  await append(market, 10, [103, 103, 103, 103, 103]);
  expect(await said(edition)).toEqual(["triggered 103"]);
  return { market, edition };
}
