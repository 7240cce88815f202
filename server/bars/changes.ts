import type { Transaction } from "sequelize";
import type { Merge } from "#core/series/merge";
import { closeOfBar } from "#core/series/resample";
import { Restatement, type Market } from "../database/models.ts";
import { holdingsOf } from "./layers.ts";
import { calendarOf } from "./markets.ts";
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
