import type { Area } from "#core/areas/areas";
import type { MarketFacts } from "#core/marks/kind";
import { targetsAhead, type ReadyGround } from "#core/written/ready/ground";
import type { Written } from "#core/written/written";
import { failureText, postJson } from "../../parts/post.ts";
import { draftAt } from "../descent/scenarios/drafts.ts";

/** Where price stands at a stop. */
interface Stand {
  price: number;
  atr: number;
  rung: string;
  now: number;
}

/** A scenario from what stands at a stop: back from an area, twice and three times the risk away. */
export function scenarioAt(area: Area, stand: Stand, market: MarketFacts): Written {
  const draft = draftAt(area, stand, market);
  const [order] = draft.terms.orders;
  const [entry, stop] = [order.entry.price as number, order.stop as number];
  const ground: ReadyGround = {
    ...{ close: stand.price, atr: stand.atr, tick: market.tick, rung: stand.rung, finer: stand.rung },
    ...{ subjects: [], labels: [], legs: [], counts: [] },
  };
  const targets = targetsAhead(ground, draft.terms.direction, entry, Math.abs(entry - stop));
  return { ...draft, rank: "doubtful", weight: 0, terms: { ...draft.terms, orders: [{ ...order, targets }] } };
}

/** Keeps it; what became of that, in a sentence. */
export async function writeAt(area: Area, stand: Stand, market: MarketFacts): Promise<string> {
  const scenario = scenarioAt(area, stand, market);
  const body = { step: "save", version: 0, scenario, writtenAt: stand.now };
  const posted = await postJson(`/descent/${market.id}/scenarios`, body);
  return posted.ok ? `Written: ${scenario.title}. It waits on the market's page.` : failureText(posted.failure);
}
