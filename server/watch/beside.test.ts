import { randomUUID } from "node:crypto";
import { describe, expect, it } from "vitest";
import { plainDraft } from "#core/edition/blocks";
import { aWritten } from "#core/testing/written";
import { alertsOf, firingsOf, scenarioChanged, setAlert } from "../alerts/alerts.ts";
import { appendBars } from "../bars/chunks.ts";
import { lockMarket } from "../bars/markets.ts";
import { transact } from "../database/connection.ts";
import type { Market } from "../database/models.ts";
import { saveScenario } from "../desk/scenarios.ts";
import { followUpsOf } from "../publishing/editions.ts";
import { createDraft, saveDraft } from "../publishing/drafts.ts";
import { publish } from "../publishing/publish.ts";
import { aMarket, anAnalyst, minutes, setClock, withTables } from "../testing.ts";
import { barsAppended } from "./changes.ts";

withTables();

const START = Date.UTC(2024, 0, 2);
const MINUTE = 60_000;
const DAY = 86_400_000;

/** Minutes from the nth on at the given closes, stored for some markets at once and told to whoever watches. */
async function append(n: number, closes: Record<string, readonly number[]>): Promise<void> {
  const until = START + (n + Math.max(...Object.values(closes).map(({ length }) => length))) * MINUTE;
  await setClock(until);
  await transact(async (transaction) => {
    const markets: Market[] = [];
    for (const [id, own] of Object.entries(closes)) {
      markets.push(await lockMarket(id, transaction));
      await appendBars({ marketId: id, base: "PT1M", shelf: "live" }, minutes(START + n * MINUTE, own), transaction);
    }
    await barsAppended(markets, until, transaction);
  });
}

const expires = new Date(START + 20 * DAY).toISOString();
const close = (side: string, price: number) => ({ on: "close", side, price, rung: "PT1M" });

describe("a condition on another market", () => {
  it("is judged by what that market's bars have told by then, whichever came first", async () => {
    const [{ id: own }, { id: other }, author] = [
      await aMarket(randomUUID()),
      await aMarket(randomUUID()),
      await anAnalyst(),
    ];
    await append(0, { [own]: [100, 100], [other]: [50, 50] });
    const scenario = {
      ...aWritten(
        { expires, if: [{ when: { on: "market", market: other, when: close("above", 60) } }] },
        { entry: { order: "market" } },
      ),
      id: randomUUID(),
    };
    await saveScenario(own, { version: 0, step: "save", scenario }, author.id);
    const draft = await createDraft(author.id);
    await saveDraft(draft.id, {
      version: 1,
      ...plainDraft("T", "B", [{ market: own, rung: "PT1M", scenarios: [scenario.id] }]),
    });
    const number = await publish(draft.id, author);
    const said = async () =>
      (await followUpsOf(number)).map(({ event }) => `${event.event} ${(event.knownAt - START) / MINUTE}`);
    await append(2, { [own]: [100], [other]: [55] });
    expect(await said()).toEqual([]);
    // Both markets' bars are stored before anybody is told: the other's close of this very minute counts.
    await append(3, { [own]: [100], [other]: [61] });
    expect(await said()).toEqual(["triggered 4"]);
    await append(4, { [own]: [100] });
    expect(await said()).toEqual(["triggered 4", "entered 5"]);
  });
});

describe("alerts on a scenario", () => {
  it("tell each step of a scenario that is on the desk alone, and follow it when it is written anew", async () => {
    const [{ id: market }, { id: author }] = [await aMarket(randomUUID()), await anAnalyst()];
    await append(0, { [market]: [100, 100] });
    const steps = [{ when: close("above", 101) }, { when: close("above", 102) }];
    const scenario = { ...aWritten({ expires, if: steps }, { entry: { order: "market" } }), id: randomUUID() };
    await saveScenario(market, { version: 0, step: "save", scenario }, author);
    const terms = { on: "scenario", scenario: scenario.id, again: true, note: "", title: "", terms: {} } as const;
    await setAlert(market, { terms }, author);
    expect((await alertsOf(author))[0].says).toBe('Each step of the scenario "A".');
    await append(2, { [market]: [101.5] });
    const says = async () => (await firingsOf(author)).map((one) => one.says).reverse();
    expect(await says()).toEqual(["A: Step 1 came, with price at 101.50."]);
    // Written anew it begins anew, from now on.
    const changed = { ...scenario, terms: { ...scenario.terms, if: [{ when: close("above", 103) }] } };
    await saveScenario(market, { version: 1, step: "save", scenario: changed }, author);
    await scenarioChanged(market, scenario.id, false);
    await append(3, { [market]: [102.5, 103.5, 103.6] });
    expect(await says()).toEqual([
      "A: Step 1 came, with price at 101.50.",
      "A: Triggered by a close at 103.50.",
      "A: Entered at 103.50.",
    ]);
    await scenarioChanged(market, scenario.id, true);
    expect(await alertsOf(author)).toEqual([]);
  });
});
