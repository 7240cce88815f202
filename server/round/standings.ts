import { createHash } from "node:crypto";
import { areasOf, onGrid, type Area } from "#core/areas/areas";
import { bandsOfFindings } from "#core/areas/fromFindings";
import { bandsOfMarks } from "#core/areas/fromMarks";
import { waitingOf } from "#core/finding/answer";
import type { Found } from "#core/finding/found";
import { mergeFindings } from "#core/finding/merge";
import type { FindingParams } from "#core/finding/params";
import { nearestMarks } from "#core/marks/nearest";
import { isSilent } from "#core/marks/registry";
import { lengthOf } from "#core/marks/shown";
import { standingOf, type Standing } from "#core/round/standing";
import { MINUTE } from "#core/time/dates";
import { calendarOf, factsOf } from "../bars/markets.ts";
import { seriesOf } from "../bars/series.ts";
import { BoardStanding, type Market } from "../database/models.ts";
import { marksOf } from "../desk/marks.ts";
import { keyOf, type HeldReading } from "../desk/readings.ts";
import { livesOf } from "../desk/lives.ts";

/** Bands areas are made of at most: those nearest to price. */
const MOST = 200;
/** Goes up when a standing says something else: what was kept before is not read any more. */
const SHAPE = 4;
/** What the machine offers on shorter rungs comes and goes too fast to make areas of. */
const SHORTEST = 15 * MINUTE;

/** A kept standing holds until a rung's next bar closes, a mark is changed or bars are restated. */
export interface HeldStanding {
  standing: Standing;
  validUntil: number;
  marked: number;
}

/** Under which standings by these parameters on these rungs are kept. */
function standingKey(params: FindingParams, rungs: readonly string[]): string {
  return createHash("sha256")
    .update(`${SHAPE} ${keyOf(params)} ${rungs.join(" ")}`)
    .digest("hex")
    .slice(0, 32);
}

/** The kept standings of many markets, those that hold no longer too. */
export async function keptStandings(
  markets: readonly Market[],
  rungs: readonly string[],
  params: FindingParams,
): Promise<Map<string, HeldStanding>> {
  const rows = await BoardStanding.findAll({
    where: { marketId: markets.map(({ id }) => id), params: standingKey(params, rungs) },
  });
  const histories = new Map(markets.map(({ id, history }) => [id, history]));
  return new Map(
    rows
      .filter((row) => row.history === histories.get(row.marketId))
      .map(({ marketId, standing, validUntil, marked }) => [marketId, { standing, validUntil, marked }]),
  );
}

/** How a market stands to its areas now, worked out and kept. */
export async function presentStanding(
  market: Market,
  held: readonly HeldReading[],
  rungs: readonly string[],
  params: FindingParams,
): Promise<HeldStanding> {
  const readings = held.map(({ reading }) => reading).filter(({ until }) => until !== undefined);
  const facts = mergeFindings(
    readings.map(({ found }) => found),
    market.tick,
  );
  const price = readings.at(-1)?.close;
  const areas =
    price === undefined
      ? []
      : await areasOfMarket(market, facts, price, new Map(readings.map(({ rung, atr }) => [rung, atr])));
  const standing = standingOf(price, areas, readings, await seriesOf(market, "P1D"));
  const validUntil = Math.min(
    ...held.filter(({ reading }) => reading.until !== undefined).map((one) => one.validUntil),
  );
  const row = { standing, validUntil: Number.isFinite(validUntil) ? validUntil : 0, marked: market.marked };
  await BoardStanding.upsert({
    marketId: market.id,
    params: standingKey(params, rungs),
    history: market.history,
    ...row,
  });
  return row;
}

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
