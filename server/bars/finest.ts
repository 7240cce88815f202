import { closeOfBar } from "#core/series/resample";
import type { Series } from "#core/series/series";
import { nominalLength } from "#core/time/timeframe";
import type { Market } from "../database/models.ts";
import { layersOf } from "./layers.ts";
import { calendarOf } from "./markets.ts";

/** The finest bars a market holds, and when each of them is over; none when it has no bars. */
export async function finestOf(market: Market): Promise<{ series: Series; closeOf(time: number): number } | undefined> {
  const layers = (await layersOf(market)).filter(({ series }) => series.length > 0);
  const [finest] = [...layers].sort((a, b) => nominalLength(a.base) - nominalLength(b.base));
  const calendar = calendarOf(market);
  return finest && { series: finest.series, closeOf: (time) => closeOfBar(time, finest.base, calendar) };
}
