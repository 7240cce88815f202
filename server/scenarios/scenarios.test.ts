import type { Frozen } from "#core/written/written";
import { randomUUID } from "node:crypto";
import { describe, expect, it } from "vitest";
import { plainDraft } from "#core/edition/blocks";
import { writtenOf } from "#core/written/former";
import type { Written, WrittenOrder, WrittenTerms } from "#core/written/written";
import { aWritten } from "#core/testing/written";
import { sp500 } from "#core/testing/openData";
import { appendBars } from "../bars/chunks.ts";
import { transact } from "../database/connection.ts";
import { Edition, ScenarioRow } from "../database/models.ts";
import { storeEvents } from "../events/events.ts";
import { closePool } from "../pool/pool.ts";
import { createDraft, saveDraft } from "../publishing/drafts.ts";
import { contentOf, sectionsOf } from "../publishing/content.ts";
import { publish } from "../publishing/publish.ts";
import { openStandings } from "../watch/standing.ts";
import { callsOf } from "../round/calls.ts";
import { aMarket, anAnalyst, failureOf, minutes, setClock, watchersOf, withTables } from "../testing.ts";
import { applySteps } from "../desk/marks.ts";
import { ruleHistoryOf } from "./history.ts";
import { scenarioContext } from "./context.ts";
import { saveScenario, scenariosOf } from "../desk/scenarios.ts";
import { dropSentence, keepSentence, sentencesOf } from "../desk/sentences.ts";

withTables();

const START = Date.UTC(2024, 0, 2);
const DAY = 86_400_000;

/** A market of minutes about 100, and the clock behind them. */
async function aDesk(count = 30): Promise<{ market: string; author: { id: string; name: string } }> {
  const [{ id: market }, author] = [await aMarket(randomUUID()), await anAnalyst()];
  await transact((transaction) =>
    appendBars(
      { marketId: market, base: "PT1M", shelf: "live" },
      minutes(
        START,
        Array.from({ length: count }, () => 100),
      ),
      transaction,
    ),
  );
  await setClock(START + DAY);
  return { market, author };
}

const written = (terms: Partial<WrittenTerms> = {}, order: Partial<WrittenOrder> = {}): Written => {
  const one = aWritten({ expires: new Date(START + 20 * DAY).toISOString(), ...terms }, order);
  return { ...one, id: randomUUID() };
};
const save = (market: string, scenario: Written, account: string, version = 0) =>
  saveScenario(market, { version, step: "save", scenario }, account);

async function published(
  market: string,
  scenarios: readonly string[],
  author: { id: string; name: string },
): Promise<number> {
  const draft = await createDraft(author.id);
  const sections = [{ market, rung: "PT1M", scenarios: [...scenarios] }];
  await saveDraft(draft.id, { version: 1, ...plainDraft("T", "B", sections) });
  return publish(draft.id, author);
}

describe("scenarios whose prices follow marks", () => {
  const level = (id: string, price: number, version: number, step: "set" | "remove" = "set") => ({
    ...{ id: randomUUID(), step, version },
    mark: { id, kind: "level", rung: "PT1M", anchors: [{ time: START, price }], props: { label: "low" }, note: "" },
  });
  it("are frozen with what their marks say at that moment, and say nothing of the marks", async () => {
    const { market, author } = await aDesk();
    const [kept, gone] = [randomUUID(), randomUUID()];
    await applySteps(market, [level(kept, 98, 0), level(gone, 97, 0)], author.id);
    const scenario = written(
      { wrong: { follows: gone, part: "at low", value: 97 } },
      { stop: { follows: kept, part: "at low", value: 98 } },
    );
    await save(market, scenario, author.id);
    await applySteps(market, [level(kept, 98.5, 1), level(gone, 97, 1, "remove")], author.id);
    const number = await published(market, [scenario.id], author);
    const canonical = (await Edition.findByPk(number))?.canonical ?? "";
    const sections = sectionsOf(contentOf(canonical));
    // What moved has moved with its mark; what was removed says what it last said.
    expect((sections[0].scenarios[0] as Frozen).terms).toMatchObject({ stop: 98.5, wrong: 97 });
    for (const own of [kept, gone, "follows"]) expect(canonical).not.toContain(own);
    expect((await scenariosOf(market))[0].scenario).toEqual(scenario);
  });
  it("of the first format, as they were once stored, are read and followed as ever", async () => {
    const { market, author } = await aDesk();
    const former = {
      ...{ id: randomUUID(), title: "Old", premise: "", direction: "long" as const },
      trigger: { event: "closeAbove" as const, price: 101, timeframe: "PT1M" },
      ...{ entry: { order: "market" as const, price: 100 }, stop: 98, targets: [{ price: 104, share: 1 }] },
      ...{ invalidation: 97, expiry: START + 10 * DAY },
    };
    await ScenarioRow.create({
      ...{ id: former.id, marketId: market, accountId: author.id, scenario: former, version: 1 },
      ...{ removed: false, writtenAt: START },
    });
    expect((await scenariosOf(market))[0].scenario).toEqual(writtenOf(former));
    const number = await published(market, [former.id], author);
    expect((await watchersOf(number))[0]).toMatchObject({ done: false, marketId: market });
  });
  it("with a fault are not published, and the sentence names market and scenario", async () => {
    const { market, author } = await aDesk();
    const scenario = written({}, { stop: 103 });
    await save(market, scenario, author.id);
    const failure = await failureOf(published(market, [scenario.id], author));
    expect(failure.sentence).toMatch(/A: The stop of a long stands below its entry\.$/);
  });
  it("of two orders are followed leg by leg, and a market's calls know where they stand", async () => {
    const { market, author } = await aDesk();
    const [first] = written().terms.orders;
    const orders = [
      { ...first, risk: 0.5 },
      { ...first, risk: 0.5, after: { leg: 1, event: "entered" as const } },
    ];
    const scenario = { ...written({ orders, if: [] }), weight: 60 };
    const waiting = { ...written(), role: "alternate" as const, weight: 30, title: "B" };
    await save(market, scenario, author.id);
    await save(market, waiting, author.id);
    const number = await published(market, [scenario.id], author);
    const [standing] = await openStandings([market]);
    expect(standing).toMatchObject({ edition: number, scenarioId: scenario.id, phase: "armed" });
    expect(standing.says).toMatch(/^leg 1: triggered, the order rests at 100.00.*leg 2: waits until leg 1 is entered/);
    const calls = (await callsOf([market])).get(market) ?? [];
    expect(calls.map(({ title, role, published: of }) => [title, role, of?.edition])).toEqual([
      ["A", "preferred", number],
      ["B", "alternate", undefined],
    ]);
  });
});

describe("sentences of one's own", () => {
  it("are kept by name, one in place of the other, and are nobody else's", async () => {
    const [{ id }, { id: other }] = [await anAnalyst(), await anAnalyst()];
    const { terms } = written();
    const kept = await keepSentence({ name: " Mine ", terms }, id);
    const again = await keepSentence({ name: "Mine", terms: { ...terms, direction: "short" } }, id);
    expect(again.id).toBe(kept.id);
    expect((await sentencesOf(id)).map(({ name, terms: { direction } }) => [name, direction])).toEqual([
      ["Mine", "short"],
    ]);
    expect(await sentencesOf(other)).toEqual([]);
    expect((await failureOf(dropSentence(kept.id, other))).code).toBe("not-found");
    await dropSentence(kept.id, id);
    expect(await sentencesOf(id)).toEqual([]);
  });
});

describe("a rule over a market's past", () => {
  const rule: WrittenTerms = written(
    { if: [{ when: { on: "shift", direction: "up", rung: "P1D" } }], wrong: { bind: "swing", step: 1, ticks: -1 } },
    {
      entry: { order: "market" },
      stop: { bind: "swing", step: 1, ticks: -1 },
      targets: [{ price: { r: 2 }, share: 1 }],
    },
  ).terms;
  it("is worked out in a process of its own, and can be stopped (S&P 500, vega-datasets)", async () => {
    const { id } = await aMarket(randomUUID());
    const series = sp500();
    await transact((transaction) => appendBars({ marketId: id, base: "P1D", shelf: "live" }, series, transaction));
    await setClock(series.time[series.length - 1] + 2 * DAY);
    const asked = { terms: rule, days: 60, seed: 7 };
    const found = await ruleHistoryOf(id, asked, new AbortController().signal, () => undefined);
    expect(found.count).toBeGreaterThan(20);
    expect(found.summary.n + found.summary.notEntered + found.summary.open).toBe(found.count);
    expect(found.groups.years.reduce((sum, { n }) => sum + n, 0)).toBe(found.summary.n);
    expect(found.groups.results.reduce((sum, { n }) => sum + n, 0)).toBe(found.summary.n);
    expect(found.bars).toEqual([{ timeframe: "P1D", length: series.length }]);
    // Stopped before it begins, and in the midst of it: the next one is worked out as ever.
    const [gone, leaving] = [new AbortController(), new AbortController()];
    gone.abort();
    for (const { signal } of [gone, leaving])
      expect((await failureOf(ruleHistoryOf(id, asked, signal, () => leaving.abort()))).code).toBe("gone");
    const again = await ruleHistoryOf(id, asked, new AbortController().signal, () => undefined);
    expect(again.summary).toEqual(found.summary);
    await closePool();
  });
  it("of several orders has none", async () => {
    const { market } = await aDesk();
    const orders = [
      { ...rule.orders[0], risk: 0.5 },
      { ...rule.orders[0], risk: 0.5 },
    ];
    const asked = { terms: { ...rule, orders }, days: 5, seed: 1 };
    expect((await failureOf(ruleHistoryOf(market, asked, new AbortController().signal, () => undefined))).code).toBe(
      "several",
    );
  });
});

describe("what a scenario is held against", () => {
  it("events that touch its market, holidays it would trade on, and open scenarios that go along", async () => {
    const author = await anAnalyst();
    const [own, other] = [await aMarket(randomUUID()), await aMarket(randomUUID())];
    const series = sp500();
    for (const { id } of [own, other])
      await transact((transaction) => appendBars({ marketId: id, base: "P1D", shelf: "live" }, series, transaction));
    const now = series.time[series.length - 1] + DAY;
    await setClock(now);
    const dates = [2, 3].map((days) => new Date(now + days * DAY).toISOString().slice(0, 10));
    const calendar = { ...own.calendar, holidays: [dates[0]], halfDays: { [dates[1]]: "13:00" } };
    await own.update({ calendar });
    const event = (uid: string, at: number, markets: string[]) => ({
      ...{ uid, at, markets, kind: "release" as const, title: uid, allDay: false, impact: 3 as const },
      ...{ currencies: [], region: "", sector: "" },
    });
    await storeEvents(
      [event("mine", now + DAY, [own.id]), event("late", now + 30 * DAY, [own.id]), event("theirs", now + DAY, [])],
      "t",
    );
    const scenario = written({ expires: new Date(now + 10 * DAY).toISOString() });
    await save(other.id, scenario, author.id);
    await published(other.id, [scenario.id], author);
    const context = await scenarioContext(own.id, now + 10 * DAY);
    expect(context.events.map(({ title }) => title)).toEqual(["mine"]);
    expect([context.holidays, context.halfDays]).toEqual([[dates[0]], [dates[1]]]);
    // The same bars: they go together wholly.
    const [along] = context.others.filter(({ market }) => market === other.name);
    expect(along).toMatchObject({ title: "A", direction: "long", n: 60 });
    expect(along.correlation).toBeCloseTo(1, 9);
  });
});
