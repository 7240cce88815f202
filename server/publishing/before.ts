import { checkEdition } from "#core/edition/checks";
import { priceText } from "#core/marks/wording";
import { listPlans } from "../accounts/plans.ts";
import { findMarket, listMarkets } from "../bars/markets.ts";
import { readClock } from "../clock.ts";
import type { Draft } from "../database/models.ts";
import { eventsOn } from "../events/events.ts";
import { chipOptions } from "./chips.ts";
import { filledBlocks, type FilledBlock } from "./filled.ts";
import { rewardOf } from "./reward.ts";
import type { Section } from "./section.ts";

const HOUR = 3_600_000;
/** Bars whose closes may have been the price when words were written. */
const RECENT = 60;

const CALLED: Readonly<Partial<Record<FilledBlock["kind"], string>>> = {
  calendar: "The calendar",
  recap: "What became of the calls",
  ranking: "The ranking",
  board: "The board",
  counts: "The table of counts",
  areas: "The table of areas",
};

/** Blocks that are filled by the desk and have nothing in them. */
function emptyOf(blocks: Draft["blocks"], filled: Readonly<Record<string, FilledBlock>>): string[] {
  return blocks.flatMap(({ id }) => {
    const of = filled[id] as FilledBlock | undefined;
    return of && "lines" in of && of.lines.length === 0 ? (CALLED[of.kind] ?? []) : [];
  });
}

/** What stands against a draft before it goes out, in sentences with their numbers. */
export async function beforePublishing(
  { title, blocks, accountId }: Pick<Draft, "title" | "blocks" | "accountId">,
  sections: readonly Section[],
  filled?: Readonly<Record<string, FilledBlock>>,
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
      const closes = bars.slice(-RECENT).map(({ close }) => priceText(close, market));
      return { market, scenarios, horizons, rewards, levels, close: bars.at(-1)?.close ?? NaN, closes };
    }),
    empty: emptyOf(blocks, filled ?? (await filledBlocks({ blocks, accountId }, sections))),
    chips: sections.flatMap(chipOptions),
    markets: (await listMarkets()).map(({ id, name }) => ({ id, name })),
    soon: soon.flat(),
  });
}
