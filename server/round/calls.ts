import { writtenOf } from "#core/written/former";
import { setOf } from "#core/written/sets";
import type { Rank, ScenarioRole } from "#core/written/written";
import { ScenarioRow } from "../database/models.ts";
import { allStandings } from "../watch/standing.ts";

/** A scenario of a market as a stop of the round shows it: where it stands in its set, and its state. */
export interface Call {
  id: string;
  title: string;
  role: ScenarioRole;
  rank: Rank;
  weight: number;
  direction: "long" | "short";
  /** The edition it was last published in and where it stands, over or not; none of one that waits on the desk. */
  published?: { edition: number; phase: string; says: string };
}

/** What is called on each of some markets: written scenarios as a set, and where those that were published stand. */
export async function callsOf(markets: readonly string[]): Promise<Map<string, Call[]>> {
  const [rows, standings] = await Promise.all([
    ScenarioRow.findAll({ where: { marketId: [...markets], removed: false } }),
    allStandings(markets),
  ]);
  const stands = new Map(standings.map((one) => [one.scenarioId, one]));
  const calls = new Map<string, Call[]>(markets.map((id) => [id, []]));
  for (const { marketId, scenario } of rows) {
    const { id, title, role, rank, weight, terms } = writtenOf(scenario);
    const last = stands.get(id);
    const published = last && { published: { edition: last.edition, phase: last.phase, says: last.says } };
    calls.get(marketId)?.push({ id, title, role, rank, weight, direction: terms.direction, ...published });
  }
  return new Map([...calls].map(([market, own]) => [market, setOf(own).members]));
}
