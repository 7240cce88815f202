import { seasonality, type Season } from "#core/context/seasonality";
import { returnsBy, SEASONS, type SeasonName } from "#core/context/seasons";
import { slice } from "#core/series/series";
import { calendarOf } from "../bars/markets.ts";
import { seriesOf } from "../bars/series.ts";
import { readTimeframe } from "../bars/timeframes.ts";
import { readClock } from "../clock.ts";
import type { Market } from "../database/models.ts";
import { closedBars } from "./readings.ts";

export interface MarketSeasons {
  by: SeasonName;
  seasons: Season[];
  /** Returns there are, their mean, and the labels of the first and the last bar. */
  n: number;
  mean: number;
  from?: number;
  to?: number;
}

/** Returns of closed bars of a market by a key of the calendar; none where there are no bars so short. */
export async function seasonsOf(market: Market, by: SeasonName): Promise<MarketSeasons> {
  const { now } = await readClock();
  const { bars } = SEASONS[by];
  const [all, timeframe, calendar] = [await seriesOf(market, bars), readTimeframe(bars), calendarOf(market)];
  const series = slice(all, 0, closedBars(all, timeframe, calendar, now));
  const returns = returnsBy(series, by, calendar.spec.zone);
  const { length: n } = returns;
  return {
    ...{ by, seasons: n > 0 ? seasonality(returns) : [], n },
    mean: n > 0 ? returns.reduce((sum, { value }) => sum + value, 0) / n : 0,
    ...(n > 0 ? { from: series.time[0], to: series.time[n] } : {}),
  };
}
