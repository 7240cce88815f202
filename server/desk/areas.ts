import { areasOf, onGrid, type Area } from "#core/areas/areas";
import { bandsOfFindings } from "#core/areas/fromFindings";
import { bandsOfMarks } from "#core/areas/fromMarks";
import { waitingOf } from "#core/finding/answer";
import type { Found } from "#core/finding/found";
import { nearestMarks } from "#core/marks/nearest";
import { isSilent } from "#core/marks/registry";
import { lengthOf } from "#core/marks/shown";
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
  const waiting = waitingOf(facts, all).filter(
    ({ step, rung }) => step !== "structure" && atrs.has(rung) && lengthOf(rung) >= SHORTEST,
  );
  const nearest = waiting.sort((a, b) => distance(a, price) - distance(b, price)).slice(0, MOST);
  return areasOf(bandsOfFindings(nearest, (rung) => atrs.get(rung) ?? 0)).map((area) => ({
    ...onGrid(area, market.tick),
    own: false,
  }));
}

function distance({ bottom, top }: Found, price: number): number {
  return Math.max(0, bottom - price, price - top);
}
