import { checkEdition } from "#core/edition/checks";
import { listPlans } from "../accounts/plans.ts";
import { findMarket, listMarkets } from "../bars/markets.ts";
import { readClock } from "../clock.ts";
import type { Draft } from "../database/models.ts";
import { eventsOn } from "../events/events.ts";
import { chipOptions } from "./chips.ts";
import { rewardOf } from "./reward.ts";
import type { Section } from "./section.ts";

const HOUR = 3_600_000;

/** What stands against a draft before it goes out, in sentences with their numbers. */
export async function beforePublishing(
  { title, blocks }: Pick<Draft, "title" | "blocks">,
  sections: readonly Section[],
): Promise<string[]> {
  const { now } = await readClock();
  const markets = [...new Map(sections.map(({ market }) => [market.id, market])).values()];
  const soon = await Promise.all(
    markets.map(async ({ id, name }) =>
      (await eventsOn(await findMarket(id), now, now + HOUR))
        .filter(({ allDay }) => !allDay)
        .map(({ title, at }) => ({ market: name, title, minutes: Math.round((at - now) / 60_000) })),
    ),
  );
  return checkEdition({
    ...{ title, blocks, plans: await listPlans() },
    sections: sections.map((section) => {
      const { market, scenarios, levels, bars, horizons = [] } = section;
      const rewards = scenarios.map((one) => rewardOf(one, section));
      return { market, scenarios, horizons, rewards, levels, close: bars.at(-1)?.close ?? NaN };
    }),
    chips: sections.flatMap(chipOptions),
    markets: (await listMarkets()).map(({ id, name }) => ({ id, name })),
    soon: soon.flat(),
  });
}
