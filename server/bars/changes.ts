import { randomUUID } from "node:crypto";
import type { Transaction } from "sequelize";
import type { Merge } from "#core/series/merge";
import { closeOfBar } from "#core/series/resample";
import { slice, type Series } from "#core/series/series";
import { FollowedPlan, Restatement, type Market } from "../database/models.ts";
import { followBars } from "../feed/follow.ts";
import { noteOutcomes } from "../feed/restated.ts";
import { log } from "../log.ts";
import { barsOfBase, holdingsOf } from "./layers.ts";
import { calendarOf, withDependents } from "./markets.ts";
import { readTimeframe } from "./timeframes.ts";

/**
 * Instant up to which a market's stored bars, of whatever resolution, have told what happened; -Infinity when it has
 * none.
 */
export async function toldUntil(market: Market, transaction: Transaction): Promise<number> {
  const calendar = calendarOf(market);
  const ends = (await holdingsOf(market.id, transaction)).map(({ base, to }) =>
    closeOfBar(to, readTimeframe(base), calendar),
  );
  return Math.max(-Infinity, ...ends);
}

/** Bars of `base` that changed, by their times, both inclusive. */
export interface Stretch {
  base: string;
  from: number;
  to: number;
}

/**
 * Tells everything that depends on markets that bars of theirs are new, within the transaction that stored them:
 * their revisions and those of markets derived from them (once each), and the published plans, which are shown the
 * bars that are over by `now`. The markets must be locked.
 */
export async function barsAppended(
  markets: readonly Market[],
  base: string,
  now: number,
  transaction: Transaction,
): Promise<void> {
  for (const market of await withDependents(markets, transaction)) {
    await market.increment("revision", { transaction });
    const written = await follow(market, base, now, transaction);
    if (written > 0) log.info({ market: market.id, written }, "follow-ups written");
  }
}

/**
 * The same where bars that had been closed say something else now, or are gone: addresses under which bars are kept
 * for ever are given up, the restatement is recorded, and noted at the outcomes that had used the bars.
 */
export async function barsRestated(
  market: Market,
  { base, from, to }: Stretch,
  cause: Pick<Restatement, "cause" | "importId" | "bars" | "accountId">,
  transaction: Transaction,
): Promise<void> {
  await Restatement.create(
    { id: randomUUID(), marketId: market.id, base, ...cause, fromTime: from, toTime: to, createdAt: Date.now() },
    { transaction },
  );
  for (const one of await withDependents([market], transaction)) {
    await one.increment("history", { transaction });
    await noteOutcomes(one, { cause: cause.cause, from, to }, transaction);
  }
}

/** Shows open plans the bars that are over and that they have not seen. Returns the number of follow-ups written. */
async function follow(market: Market, base: string, now: number, transaction: Transaction): Promise<number> {
  const from = await FollowedPlan.min<number, FollowedPlan>("lastTime", {
    where: { marketId: market.id, done: false },
    transaction,
  });
  // The mapper answers NaN or null where there is no row.
  if (from === null || !Number.isFinite(from)) return 0;
  const timeframe = readTimeframe(base);
  const bars = over(
    await barsOfBase(market, base, from, Infinity, transaction),
    (time) => closeOfBar(time, timeframe, calendarOf(market)) <= now,
  );
  return bars.length === 0 ? 0 : followBars(market, timeframe, bars, transaction);
}

/** Without the unfinished bars at the end. */
function over(series: Series, isOver: (time: number) => boolean): Series {
  let n = series.length;
  while (n > 0 && !isOver(series.time[n - 1])) n--;
  return slice(series, 0, n);
}

/** First and last time that a merge touched: of what it added and what it replaced. */
export function stretchOf({ addedRuns, replaced }: Pick<Merge, "addedRuns" | "replaced">): {
  from: number;
  to: number;
} {
  const ends = [addedRuns[0], addedRuns.at(-1), replaced.time[0], replaced.time[replaced.length - 1]].filter(
    (time) => time !== undefined,
  );
  return { from: Math.min(...ends), to: Math.max(...ends) };
}

export function listRestatements(marketId: string, limit = 50): Promise<Restatement[]> {
  return Restatement.findAll({ where: { marketId }, order: [["createdAt", "DESC"]], limit });
}
