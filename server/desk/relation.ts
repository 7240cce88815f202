import { DAY } from "#core/time/dates";
import { findMarket } from "../bars/markets.ts";
import { seriesAsOf } from "../bars/series.ts";
import { Failure } from "../failure.ts";
import { readClock } from "../clock.ts";

/** The last prices of two markets as they were known at one instant, and as they are known now. */
export interface Relation {
  at: number;
  here: number;
  there: number;
  now: { at: number; here: number; there: number };
}

/** What two markets cost at an instant; an instant to come is taken as now. */
export async function relationAt(hereId: string, thereId: string, asked: number, asOf?: number): Promise<Relation> {
  const present = asOf ?? (await readClock()).now;
  const at = Math.min(asked, present);
  const prices = async (instant: number) => ({
    at: instant,
    here: await priceAt(hereId, instant),
    there: await priceAt(thereId, instant),
  });
  return { ...(await prices(at)), now: await prices(present) };
}

const LATELY = 60 * DAY;

async function priceAt(marketId: string, instant: number): Promise<number> {
  const market = await findMarket(marketId);
  // Looked for in the weeks before; only a market that has slept longer is read from its beginning.
  const lately = await seriesAsOf(market, "P1D", "all", instant, instant - LATELY);
  const days = lately.length > 0 ? lately : await seriesAsOf(market, "P1D", "all", instant);
  if (days.length === 0)
    throw new Failure("early", `${market.name} has no bars by then.`, {
      status: 400,
      kept: "Nothing was changed.",
      remedy: "Choose a later time.",
    });
  return days.close[days.length - 1];
}
