import { canSee } from "#core/edition/parts";
import { readClock } from "../clock.ts";
import { findMarket } from "../bars/markets.ts";
import { seriesOf } from "../bars/series.ts";
import type { Sight } from "../accounts/plans.ts";
import { chartsOf } from "../publishing/content.ts";
import { becameOf, seeEdition } from "./seen.ts";

/** What moves of an edition while it is read. */
export interface EditionNow {
  /** Market time. */
  at: number;
  /** The last price of each market whose pictures the plan shows. */
  markets: { id: string; price: number }[];
  /** Where its calls stand that are under way, where the plan shows that. */
  calls: { scenarioId: string; says: string }[];
}

/** Where price and calls of an edition stand, as far as somebody is shown them. */
export async function editionNow(text: string, sight: Sight): Promise<EditionNow> {
  const { edition, content } = await seeEdition(text, sight);
  const ids = canSee("pictures", sight.parts) ? [...new Set(chartsOf(content).map(({ market }) => market.id))] : [];
  const markets = ids.map(async (id) => {
    const days = await seriesOf(await findMarket(id), "P1D");
    return days.length === 0 ? [] : [{ id, price: days.close[days.length - 1] }];
  });
  const { standings } = await becameOf(edition.number, content, sight);
  return {
    at: (await readClock()).now,
    markets: (await Promise.all(markets)).flat(),
    calls: standings.filter(({ phase }) => phase !== "done").map(({ scenarioId, says }) => ({ scenarioId, says })),
  };
}
