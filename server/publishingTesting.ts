import { aFirst } from "#core/testing/written";
import { plainDraft } from "#core/edition/blocks";
import { writtenOf } from "#core/written/former";
import type { Scenario } from "#core/scenarios/scenario";
import { saveScenario } from "./desk/scenarios.ts";
import { createDraft, saveDraft } from "./publishing/drafts.ts";
import { publish } from "./publishing/publish.ts";
import { aMarketWithTape, anAnalyst, MINUTE, START } from "./testing.ts";

export { MINUTE, START };

/** A market with a day of minutes behind the clock and a tape of closes ahead of it. */
export async function aWorld(tape: number[], other?: Partial<Scenario>) {
  const [market, author] = [await aMarketWithTape(tape), await anAnalyst()];
  const scenario = aFirst({
    trigger: { event: "closeAbove", price: 101, timeframe: "PT5M" },
    entry: { order: "market", price: 102 },
    stop: 100,
    targets: [
      { price: 104, share: 0.5 },
      { price: 106, share: 0.5 },
    ],
    invalidation: 99,
    expiry: START + 10_000 * MINUTE,
    ...other,
  });
  await saveScenario(market.id, { version: 0, step: "save", scenario: writtenOf(scenario) }, author.id);
  const draft = await createDraft(author.id);
  const section = { market: market.id, rung: "PT15M", scenarios: [scenario.id] };
  await saveDraft(draft.id, { version: 1, ...plainDraft("A title", "Words.", [section]) });
  return { market, author, draft, scenario, section };
}

/** An edition that is published, "Tin holds", of a call that is triggered and reaches its targets in twelve minutes. */
export async function aTinEdition() {
  const world = await aWorld([102, 102, 102, 102, 102, 102, 103, 104, 105, 106, 107, 107], { stop: 97.31 });
  await saveDraft(world.draft.id, { version: 2, ...plainDraft("Tin holds", "Words of it.", [world.section]) });
  return { ...world, number: await publish(world.draft.id, world.author) };
}
