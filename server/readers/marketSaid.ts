import { findMarket } from "../bars/markets.ts";
import { notFound } from "../failure.ts";
import type { Sight } from "../accounts/plans.ts";
import type { FrozenSection } from "../publishing/section.ts";
import { sectionsOf } from "../publishing/content.ts";
import { archiveSeen } from "./archive.ts";
import { callsSeen, changesSeen, type CallLine, type ChangeLine } from "./calls.ts";
import { editionsSeen, seeEdition, type FoundEdition } from "./seen.ts";

/** Everything that was said of a market, and what became of it, as one reader is shown it. */
export interface MarketSaid {
  market: { id: string; name: string; decimals: number };
  /** The view and the levels when it was written of last; none where it never was, or the plan shows neither. */
  last: { edition: FoundEdition; section: Pick<FrozenSection, "horizons" | "levels"> } | undefined;
  calls: CallLine[];
  changes: ChangeLine[];
  editions: FoundEdition[];
}

const CHANGES = 20;

export async function marketSaid(id: string, sight: Sight, now = Date.now()): Promise<MarketSaid> {
  const market = await findMarket(id);
  // Of a market that no edition names which may be opened nothing is told, its name least of all.
  const named = (await marketsSeen(sight, now)).find((one) => one.id === id);
  if (!named) throw notFound("market");
  const { editions } = await archiveSeen({ words: "", market: id, page: 1 }, sight, now);
  return {
    market: { ...named, decimals: market.decimals },
    last: await lastSection(id, editions, sight, now),
    calls: await callsSeen(sight, now, id),
    changes: await changesSeen(sight, now, { limit: CHANGES, market: id }),
    editions,
  };
}

async function lastSection(
  id: string,
  editions: readonly FoundEdition[],
  sight: Sight,
  now: number,
): Promise<MarketSaid["last"]> {
  for (const edition of editions.slice(0, 5)) {
    const { content } = await seeEdition(String(edition.number), sight, now);
    const blocks = content.blocks.filter(Boolean);
    const section = sectionsOf({ blocks }).find(({ market }) => market.id === id);
    if (!section) continue;
    const { horizons = [], levels = [] } = section as Partial<FrozenSection>;
    return { edition, section: { horizons, levels: levels.filter(Boolean) } };
  }
  return undefined;
}

/** Markets that editions somebody may open speak of, by their names. */
export async function marketsSeen(sight: Sight, now = Date.now()): Promise<{ id: string; name: string }[]> {
  const open = (await editionsSeen(sight, now)).filter(({ isOpen }) => isOpen);
  // The newest edition says what a market is called.
  const named = new Map(
    [...open].reverse().flatMap(({ markets }) => markets.map(({ id, name }) => [id, name] as const)),
  );
  return [...named].map(([id, name]) => ({ id, name })).sort((a, b) => a.name.localeCompare(b.name));
}
