import { HORIZONS, usualHorizons, type Horizons } from "#core/finding/horizon";
import { HorizonRow } from "../database/models.ts";
import { Failure } from "../failure.ts";
import { rungSetsOf } from "./rungSets.ts";

/** Which rungs of the chosen set speak for the long, medium and short view. */
export async function horizonsOf(accountId: string): Promise<Horizons> {
  const { chosen } = await rungSetsOf(accountId);
  const rungs = chosen.rungs.map(({ rung }) => rung);
  const row = await HorizonRow.findOne({ where: { accountId, setId: chosen.id } });
  if (!row) return usualHorizons(rungs);
  // A rung that has left the set says nothing any more.
  return Object.fromEntries(
    HORIZONS.map((horizon) => [horizon, row.horizons[horizon].filter((rung) => rungs.includes(rung))]),
  ) as Horizons;
}

/** Chooses the rungs of the chosen set that speak for each horizon. */
export async function saveHorizons(asked: Horizons, accountId: string): Promise<Horizons> {
  const { chosen } = await rungSetsOf(accountId);
  const known = chosen.rungs.map(({ rung }) => rung);
  const unknown = HORIZONS.flatMap((horizon) => asked[horizon]).find((rung) => !known.includes(rung));
  if (unknown !== undefined)
    throw new Failure("rung", "A rung of a horizon is not in this set of rungs.", { kept: "Nothing was changed." });
  const horizons = Object.fromEntries(
    HORIZONS.map((horizon) => [horizon, known.filter((rung) => asked[horizon].includes(rung))]),
  ) as Horizons;
  await HorizonRow.upsert({ accountId, setId: chosen.id, horizons });
  return horizons;
}
