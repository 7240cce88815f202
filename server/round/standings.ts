import { createHash } from "node:crypto";
import { mergeFindings } from "#core/finding/merge";
import type { FindingParams } from "#core/finding/params";
import { standingOf, type Standing } from "#core/round/standing";
import { seriesOf } from "../bars/series.ts";
import { BoardStanding, type Market } from "../database/models.ts";
import { areasOfMarket } from "../desk/areas.ts";
import { keyOf, type HeldReading } from "../desk/readings.ts";

/** Goes up when a standing says something else: what was kept before is not read any more. */
const SHAPE = 6;

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
  const price = readings.at(-1)?.close;
  const facts = mergeFindings(
    readings.map(({ found }) => found),
    market.tick,
    price ?? 0,
  );
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
