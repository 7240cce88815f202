import { areasOf, onGrid, type Area } from "#core/areas/areas";
import { bandsOfMarks } from "#core/areas/fromMarks";
import { waitingOf } from "#core/finding/answer";
import type { Found } from "#core/finding/found";
import { nearestMarks } from "#core/marks/nearest";
import { isSilent } from "#core/marks/registry";
import { lengthOf } from "#core/marks/shown";
import { offeredAreas } from "#core/round/dayPlan";
import { MINUTE } from "#core/time/dates";
import { calendarOf, factsOf } from "../bars/markets.ts";
import { seriesOf } from "../bars/series.ts";
import type { Market } from "../database/models.ts";
import { livesOf } from "./lives.ts";
import { marksOf } from "./marks.ts";

/** Bands areas are made of at most: those nearest to price. */
const MOST = 200;
/** What the machine offers on shorter rungs comes and goes too fast to make areas of. */
const SHORTEST = 15 * MINUTE;

/** Areas of the analysts' live marks; where they make none, of what the machine offers and nobody has answered. */
export async function areasOfMarket(
  market: Market,
  facts: readonly Found[],
  price: number,
  atrs: ReadonlyMap<string, number>,
): Promise<(Area & { own: boolean })[]> {
  const all = await marksOf(market.id);
  const marks = all.filter((mark) => !isSilent(mark) && !mark.hidden);
  const lived = await livesOf(marks, (rung) => seriesOf(market, rung), factsOf(market), calendarOf(market));
  const own = areasOf(bandsOfMarks(nearestMarks(lived, price, MOST, []), (rung) => atrs.get(rung)));
  if (own.length > 0) return own.map((area) => ({ ...onGrid(area, market.tick), own: true }));
  const offered = waitingOf(facts, all).filter(({ rung }) => atrs.has(rung) && lengthOf(rung) >= SHORTEST);
  const atrOf = (rung: string) => atrs.get(rung) ?? 0;
  const areas = offeredAreas(offered, { price, tick: market.tick, unit: atrs.get("P1D") ?? longestOf(atrs), atrOf });
  // What stands alone is no meeting of reasons: a row of the Round says where several agree.
  return areas.filter(({ reasons }) => reasons.length > 1).map((area) => ({ ...area, own: false }));
}

/** ATR of the longest rung there is: how far is near where there are no days. */
function longestOf(atrs: ReadonlyMap<string, number>): number {
  const [longest] = [...atrs].sort(([a], [b]) => lengthOf(b) - lengthOf(a));
  return longest ? longest[1] : 0;
}
