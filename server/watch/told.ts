import { FINDING_DEFAULTS } from "#core/finding/params";
import { asInstant } from "#core/observe/instant";
import type { Told } from "#core/scenarios/follow";
import { wholeNeeds, type WholeTerms } from "#core/scenarios/legs";
import { layersOf } from "../bars/layers.ts";
import { calendarOf } from "../bars/markets.ts";
import { Market } from "../database/models.ts";

/** What a market's stored bars tell until an instant, with the other markets that a scenario's conditions are on. */
export async function toldOf(market: Market, terms: WholeTerms, until: number): Promise<Told> {
  const names = [...new Set(wholeNeeds(terms).flatMap(({ market: name }) => name ?? []))];
  const others = names.length === 0 ? [] : await Market.findAll({ where: { id: names } });
  const own = async (of: Market) => ({
    layers: await layersOf(of),
    calendar: calendarOf(of),
    k: FINDING_DEFAULTS.k,
    until: asInstant(until),
    tick: of.tick,
  });
  const also = await Promise.all(others.map(async (other) => [other.id, await own(other)] as const));
  return { ...(await own(market)), also: Object.fromEntries(also) };
}
