import { LRUCache } from "lru-cache";
import type { SaidOfMarket } from "#core/edition/changes";
import { Edition } from "../database/models.ts";
import { contentOf, sectionsOf } from "./content.ts";

/** How many editions back a market is looked for. */
const BACK = 30;

/** What an edition said of a market. */
export type Said = SaidOfMarket & { edition: number };

/** What each edition said of its markets, by its digest: what is frozen never says anything else. */
const known = new LRUCache<string, ReadonlyMap<string, Said>>({ max: 100 });

/** What was last said of each of some markets, in the edition that last had them. */
export async function lastSaid(markets: readonly string[]): Promise<Map<string, Said>> {
  const out = new Map<string, Said>();
  const editions = await Edition.findAll({
    order: [["number", "DESC"]],
    attributes: ["number", "sha256"],
    limit: BACK,
    raw: true,
  });
  for (const { number, sha256 } of editions) {
    if (markets.every((id) => out.has(id))) break;
    const said = known.get(sha256) ?? (await saidIn(number));
    known.set(sha256, said);
    for (const id of markets) {
      const own = said.get(id);
      if (own && !out.has(id)) out.set(id, own);
    }
  }
  return out;
}

async function saidIn(number: number): Promise<Map<string, Said>> {
  const edition = await Edition.findByPk(number, { attributes: ["canonical"], rejectOnEmpty: true, raw: true });
  const said = new Map<string, Said>();
  for (const { market, levels, scenarios } of sectionsOf(contentOf(edition.canonical))) {
    const before = said.get(market.id);
    // Of two sections of one market the first has its levels, and both have its calls.
    const calls = new Map([...(before?.scenarios ?? []), ...scenarios].map((one) => [one.id, one]));
    said.set(market.id, { edition: number, levels: before?.levels ?? levels, scenarios: [...calls.values()] });
  }
  return said;
}
