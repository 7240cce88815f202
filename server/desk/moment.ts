import { holdingsOf } from "../bars/layers.ts";
import { findMarket, legsOf } from "../bars/markets.ts";
import { readClock } from "../clock.ts";
import type { Market } from "../database/models.ts";
import { Failure } from "../failure.ts";

/**
 * The moment at which what is said counts as said: now, or the past one the desk stands at, which is one the market
 * has bars of.
 */
export async function momentOf(market: string, asked: number | undefined): Promise<number> {
  const { now } = await readClock();
  if (asked === undefined || asked >= now) return now;
  if (asked < (await firstBarOf(await findMarket(market))))
    throw new Failure("moment", "The desk cannot stand at a moment before the market's first bar.", {
      kept: "Nothing was saved.",
      status: 400,
    });
  return asked;
}

/**
 * Time of the first bar of a market or, for one made of others, the first that all of them can have; Infinity without
 * any.
 */
async function firstBarOf(market: Market): Promise<number> {
  if (market.formula) return Math.max(...(await Promise.all((await legsOf(market)).map(firstBarOf))));
  return Math.min(Infinity, ...(await holdingsOf(market.id)).map(({ from }) => from));
}
