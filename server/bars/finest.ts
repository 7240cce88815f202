import { closeOfBar } from "#core/series/resample";
import { nominalLength } from "#core/time/timeframe";
import type { Market } from "../database/models.ts";
import { layersOf } from "./layers.ts";
import { calendarOf } from "./markets.ts";

/** Instant at which the last of a market's finest bars is over; none when it has no bars. */
export async function finestUntil(market: Market): Promise<number | undefined> {
  const layers = (await layersOf(market)).filter(({ series }) => series.length > 0);
  const [finest] = [...layers].sort((a, b) => nominalLength(a.base) - nominalLength(b.base));
  return finest && closeOfBar(finest.series.time[finest.series.length - 1], finest.base, calendarOf(market));
}
