import { aFirst } from "#core/testing/written";
import { plainDraft } from "#core/edition/blocks";
import { writtenOf } from "#core/written/former";
import type { Scenario } from "#core/scenarios/scenario";
import { appendBars } from "./bars/chunks.ts";
import { transact } from "./database/connection.ts";
import { saveScenario } from "./desk/scenarios.ts";
import { createDraft, saveDraft } from "./publishing/drafts.ts";
import { aMarket, anAnalyst, minutes, setClock } from "./testing.ts";

export const START = Date.UTC(2024, 0, 2);
export const MINUTE = 60_000;

/** A market with a day of minutes behind the clock and a tape of closes ahead of it. */
export async function aWorld(tape: number[], other?: Partial<Scenario>) {
  const [market, author] = [await aMarket(), await anAnalyst()];
  await transact(async (transaction) => {
    await appendBars(
      { marketId: market.id, base: "PT1M", shelf: "live" },
      minutes(
        START,
        Array.from({ length: 600 }, () => 100),
      ),
      transaction,
    );
    await appendBars(
      { marketId: market.id, base: "PT1M", shelf: "tape" },
      minutes(START + 600 * MINUTE, tape),
      transaction,
    );
  });
  await setClock(START + 600 * MINUTE);
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
