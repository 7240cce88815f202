import { randomUUID } from "node:crypto";
import { isDeepStrictEqual } from "node:util";
import { LRUCache } from "lru-cache";
import { col, fn, type Transaction } from "sequelize";
import { FINDING_DEFAULTS } from "#core/finding/params";
import type { ClosedBar } from "#core/observe/closedBar";
import { closedBars } from "#core/observe/closedBars";
import { asInstant, EVER, type Instant } from "#core/observe/instant";
import type { Need } from "#core/observe/tape";
import { warmFrom } from "#core/observe/warm";
import type { FollowUp } from "#core/scenarios/events";
import { wholeNeeds } from "#core/scenarios/legs";
import type { Layer } from "#core/series/layers";
import type { Calendar } from "#core/time/calendar";
import { layersOf } from "../bars/layers.ts";
import { calendarOf } from "../bars/markets.ts";
import { FollowUpRow, Market, RecordEntry, WatcherRow } from "../database/models.ts";
import { isSealed, sealAnew } from "../database/sealing.ts";
import { log } from "../log.ts";
import { announce } from "../outbox/outbox.ts";
import { appendToRecord } from "../record/append.ts";
import { frozenScenarios } from "../record/frozen.ts";
import { publicKeys } from "../signing.ts";
import { followUpPart } from "../record/parts.ts";
import { partsOf, subjectOf } from "../record/subject.ts";
import { appendRows, beginGeneration, keepReach, readPages, readRows } from "../record/told/book.ts";
import { pagesFault, type ToldFacts, type ToldPage } from "../record/told/page.ts";
import { needsAt, Replay, type Call, type Came } from "../record/told/replay.ts";
import { differing, generationsOf, inBlocks, lies, ownBars, readsAlike } from "../record/told/restatedRows.ts";
import type { ToldRow } from "../record/told/rows.ts";
import { restatedEntered, restatedSpans } from "../record/told/stored.ts";
import { keptTail, reaches } from "../record/told/tails.ts";

/**
 * Calls of markets as this process last worked them out. What it holds is never taken from a row that may change: it
 * was worked out from sealed pages, and is so again where it is not held.
 */
const replays = new LRUCache<string, Replay>({ max: 400 });

/** For a process that works on one desk after the other, as tests do. */
export function forgetReplays(): void {
  replays.clear();
}

interface CallRow extends Call {
  row: WatcherRow;
}

/** The published calls on a market that are not over: rows find them, what they say is what was frozen. */
async function openCalls(market: Market, transaction: Transaction): Promise<CallRow[]> {
  const rows = await WatcherRow.findAll({
    where: { marketId: market.id, kind: "scenario", done: false },
    order: [["subject", "ASC"]],
    transaction,
    lock: transaction.LOCK.UPDATE,
  });
  if (rows.length === 0) return [];
  const editions = rows.map(({ subject }) => partsOf(subject).edition);
  const frozen = await frozenScenarios(editions, transaction);
  return rows.flatMap((row): CallRow[] => {
    const { edition, scenarioId } = partsOf(row.subject);
    const call = frozen.get(edition)?.get(scenarioId);
    // What is not what was published is not followed; the log has said so.
    if (!call || call.calledIn !== undefined || call.market.id !== market.id) return [];
    return [{ row, subject: row.subject, terms: call.terms, since: call.since }];
  });
}

/**
 * Tells the published calls on a market what its bars say that they have not been told, up to an instant: bars go on a
 * sealed page, what they did to a call is a follow-up and an entry of the record. In the transaction that stores the
 * bars; the market must be locked. Returns how much was said.
 */
export async function tellCalls(market: Market, until: number, transaction: Transaction): Promise<number> {
  const calls = await openCalls(market, transaction);
  if (calls.length === 0) return 0;
  const replay = await readyReplay(market, calls, until, transaction);
  if (!replay?.last || !replay.facts) return 0;
  const { through, facts, last } = replay;
  const others = await Promise.all(
    facts.also.map(async ({ market: name, from }, i) => sourceOf(name, replay.besides[i] ?? from ?? -Infinity)),
  );
  const own = await sourceOf(market.id, through ?? -Infinity, market);
  const rows = [...toldRows(own, others, until)];
  if (rows.length > 0) {
    const end = rows.findLast(({ who }) => who === 0)?.bar.to ?? through;
    for (const { page, rows: all } of await appendRows(last, rows, end, transaction)) replay.take(page, all);
  }
  const entered = await eventsEntered(calls, transaction);
  let said = 0;
  for (const call of calls) {
    const { subject } = call;
    const came = replay.came(subject);
    if (!came) continue;
    // What the record has of it already; a call that could not be followed for a while makes up for it.
    const known = Math.max(came.before, entered.get(subject) ?? 0);
    await keepRow(call, came, transaction);
    said += await keepEvents(subject, came.events.slice(known - came.before), known, transaction);
  }
  return said;
}

/** How many follow-ups of some calls are in the record, by their subjects. */
async function eventsEntered(calls: readonly Call[], transaction: Transaction): Promise<Map<string, number>> {
  const edition = [...new Set(calls.map(({ subject }) => partsOf(subject).edition))];
  const rows = (await RecordEntry.findAll({
    where: { kind: "followUp", edition },
    attributes: ["edition", "scenarioId", [fn("MAX", col("sequence")), "sequence"]],
    group: ["edition", "scenarioId"],
    transaction,
    raw: true,
  })) as Pick<RecordEntry, "edition" | "scenarioId" | "sequence">[];
  return new Map(rows.map((row) => [subjectOf(row.edition, row.scenarioId), row.sequence]));
}

/**
 * Begins to follow published calls on a market that is locked: the bars that their steps hang on are sealed as they are
 * now. Their edition must have been entered.
 */
export async function beginCalls(
  market: Market,
  begun: readonly { subject: string; start: unknown }[],
  now: number,
  transaction: Transaction,
): Promise<void> {
  await WatcherRow.bulkCreate(
    begun.map(({ subject, start }) => ({
      ...{ id: randomUUID(), kind: "scenario" as const, subject, marketId: market.id },
      ...{ state: start, since: now, done: false, through: null },
    })),
    { transaction },
  );
  const calls = await openCalls(market, transaction);
  if (calls.length > 0) await readyReplay(market, calls, now, transaction);
}

/**
 * The row of a call says where it stands, for readers alone: most bars change nothing of it. A row that somebody else
 * wrote into is written over with what was worked out.
 */
async function keepRow({ row, since }: CallRow, { state, ended }: Came, transaction: Transaction): Promise<void> {
  const isOurs = isSealed(row);
  if (!isOurs) log.error({ call: row.subject }, "a call's row was not the desk's own: it is what was worked out again");
  if (isOurs && JSON.stringify(state) === JSON.stringify(row.state) && row.through === ended) return;
  row.set({ state, since, done: ended !== null, through: ended });
  await sealAnew(row, transaction);
}

/**
 * A market's calls worked out as far as pages go, and a generation of pages that holds all they need. None where the
 * pages are not what was sealed: nothing is said of these calls then, and the log says why.
 */
async function readyReplay(
  market: Market,
  calls: readonly CallRow[],
  until: number,
  transaction: Transaction,
): Promise<Replay | undefined> {
  let replay: Replay;
  try {
    replay = await syncedReplay(market.id, calls, transaction);
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    replays.delete(market.id);
    log.error({ market: market.id, why: error.message }, "calls cannot be worked out: they are not followed");
    return undefined;
  }
  // What was told before pages were kept is told to nobody again.
  const begins = Math.min(until, market.toldThrough ?? until);
  const facts = await factsFor(market, calls, replay.through ?? begins);
  if (!replay.facts || !holds(replay.facts, facts)) {
    const changed = replay.facts && (await changedUnentered(market, replay.facts, facts, transaction));
    if (changed) {
      log.error({ market: market.id, at: changed.from }, "bars were changed and no change was entered: its calls wait");
      return undefined;
    }
    const before = replay.last?.page;
    const through = replay.through ?? undefined;
    const others = await Promise.all(facts.also.map(({ market: name, from }) => sourceOf(name, from ?? -Infinity)));
    const rows = toldRows(await sourceOf(market.id, facts.from ?? -Infinity, market), others, through ?? begins);
    const adopted = before ? {} : await adoptedFrom(calls, transaction);
    const begun = { facts: { ...facts, ...adopted }, rows, through: through ?? (await endOfStored(market, begins)) };
    for await (const { page, rows: own } of beginGeneration(market.id, before, begun, transaction))
      replay.take(page, own);
    if (replay.last) keepReach(replay.last.page, transaction);
  }
  replays.set(market.id, replay);
  return replay;
}

/** Calls that were followed before pages were kept go on from where the desk had them then. */
async function adoptedFrom(calls: readonly CallRow[], transaction: Transaction): Promise<Pick<ToldFacts, "adopted">> {
  const entered = await eventsEntered(calls, transaction);
  const followed = calls.filter(({ subject, row }) => entered.has(subject) && isSealed(row));
  if (followed.length === 0) return {};
  return {
    adopted: Object.fromEntries(
      followed.map(({ subject, row }) => [subject, { state: row.state, events: entered.get(subject) ?? 0 }]),
    ),
  };
}

/** A bar that calls were told and that is stored otherwise now, though no change of it was entered. */
async function changedUnentered(
  market: Market,
  before: ToldFacts,
  now: ToldFacts,
  transaction: Transaction,
): Promise<ClosedBar | undefined> {
  if (!readsAlike(before, now)) return undefined;
  const own = generationsOf(await readPages(market.id, 1, transaction)).at(-1) ?? [];
  const told = ownBars(own, (page) => readRows(page, transaction));
  const { layers, calendar, after } = await sourceOf(market.id, before.from ?? -Infinity, market);
  const spans = await restatedSpans(market, await restatedEntered());
  for await (const bar of differing(told, inBlocks(closedBars(layers, calendar, after))))
    if (!lies(spans, bar)) return bar;
  return undefined;
}

/** The pages of a market taken from where this process stands, or from where its open calls begin. */
async function syncedReplay(market: string, calls: readonly Call[], transaction: Transaction): Promise<Replay> {
  const held = replays.get(market);
  if (held?.last && held.has(calls) && hasNeeds(held, calls)) {
    const pages = await readPages(market, held.last.page.number, transaction);
    const [first] = pages;
    const isSame = first?.sha256 === held.last.page.sha256;
    if (first && (isSame || held.goesOnWith(first, await readRows(first, transaction)))) {
      checkPages(market, pages);
      return takePages(held, isSame ? pages.slice(1) : pages, transaction);
    }
  }
  const all = await readPages(market, 1, transaction);
  checkPages(market, all);
  const since = Math.min(...calls.map((call) => call.since));
  const begins = all.findLastIndex(({ facts, through }) => facts !== null && (through ?? -Infinity) <= since);
  const first = begins >= 0 ? begins : 0;
  return takePages(new Replay(calls), all.slice(first), transaction);
}

/** Whether what is held was worked out with all that some calls need in the bars of its generation. */
const hasNeeds = (replay: Replay, calls: readonly Call[]) =>
  replay.reads(calls.flatMap(({ terms }) => wholeNeeds(terms)));

function checkPages(market: string, pages: readonly ToldPage[]): void {
  const [first] = pages;
  const fault = first && pagesFault(pages, publicKeys(), { number: first.number - 1, sha256: first.previous });
  if (fault !== undefined) throw new RangeError(fault);
  if (!reaches(pages.at(-1), keptTail(market)))
    throw new RangeError(`Pages of what calls on ${market} were told are gone.`);
}

async function takePages(replay: Replay, pages: readonly ToldPage[], transaction: Transaction): Promise<Replay> {
  for (const page of pages) replay.take(page, await readRows(page, transaction));
  return replay;
}

/** What bars of a market are told from, and from when on. */
interface Source {
  layers: readonly Layer[];
  calendar: Calendar;
  after: Instant;
}

async function sourceOf(id: string, after: number, known?: Market): Promise<Source> {
  const market = known ?? (await Market.findByPk(id));
  if (!market) return { layers: [], calendar: NO_CALENDAR, after: EVER };
  return { layers: await layersOf(market), calendar: calendarOf(market), after: asInstant(after) };
}

const NO_CALENDAR = calendarOf({ calendar: { zone: "UTC", sessions: [] } });

/** Bars in the order they are told: before each own bar those of the markets beside that were known by its close. */
function* toldRows(own: Source, others: readonly Source[], until: number): Generator<ToldRow> {
  const after = others.map((other) => other.after);
  for (const bar of closedBars(own.layers, own.calendar, own.after, asInstant(until))) {
    for (const [i, other] of others.entries())
      for (const beside of closedBars(other.layers, other.calendar, after[i], bar.to)) {
        yield { who: i + 1, bar: beside };
        after[i] = beside.to;
      }
    yield { who: 0, bar };
  }
}

/** Up to when a market's stored bars had closed by an instant; that instant itself where it has none. */
async function endOfStored(market: Market, until: number): Promise<number> {
  const { layers, calendar } = await sourceOf(market.id, -Infinity, market);
  let end = -Infinity;
  for (const bar of closedBars(layers, calendar, asInstant(until - LOOK_BACK), asInstant(until))) end = bar.to;
  if (end === -Infinity) for (const bar of closedBars(layers, calendar, EVER, asInstant(until))) end = bar.to;
  return end === -Infinity ? until : end;
}

const LOOK_BACK = 7 * 86_400_000;

const orNull = (from: number) => (Number.isFinite(from) ? from : null);

/** What a generation must begin with for these calls to go on from an instant. */
async function factsFor(market: Market, calls: readonly Call[], through: number): Promise<ToldFacts> {
  const needs = calls.flatMap(({ terms }) => wholeNeeds(terms));
  const names = [...new Set(needs.flatMap(({ market: name }) => name ?? []))].sort();
  const others = names.length === 0 ? [] : await Market.findAll({ where: { id: names }, order: [["id", "ASC"]] });
  const of = (one: Market, own: readonly Need[]) => ({
    market: one.id,
    tick: one.tick,
    calendar: one.calendar,
    history: one.history,
    from: orNull(warmFrom(own, asInstant(through), calendarOf(one))),
  });
  const own = of(
    market,
    needs.filter((need) => need.market === undefined),
  );
  return {
    ...own,
    k: FINDING_DEFAULTS.k,
    // As far back as the market itself is told, and as far before that as its own rungs need.
    also: others.map((other) => {
      const { from, ...facts } = of(other, needsAt(other.id, needs));
      return { ...facts, from: from === null || own.from === null ? null : Math.min(from, own.from) };
    }),
  };
}

/** Whether a generation that began with some facts holds all that others ask for. */
function holds(before: ToldFacts, asked: ToldFacts): boolean {
  type One = Pick<ToldFacts, "market" | "tick" | "calendar" | "history" | "from">;
  const reads = (a: One | undefined, b: One) =>
    a?.tick === b.tick &&
    a.history === b.history &&
    isDeepStrictEqual(a.calendar, b.calendar) &&
    (a.from === null || (b.from !== null && a.from <= b.from));
  return (
    before.k === asked.k &&
    reads(before, asked) &&
    asked.also.every((other) =>
      reads(
        before.also.find(({ market }) => market === other.market),
        other,
      ),
    )
  );
}

async function keepEvents(
  subject: string,
  events: readonly FollowUp[],
  before: number,
  transaction: Transaction,
): Promise<number> {
  if (events.length === 0) return 0;
  const { edition, scenarioId } = partsOf(subject);
  const createdAt = Date.now();
  const rows = events.map((event, n) => ({ edition, scenarioId, sequence: before + n + 1, event, createdAt }));
  await FollowUpRow.bulkCreate(rows, { transaction });
  await appendToRecord(rows.map(followUpPart), transaction);
  await announce(
    rows.map(({ sequence }) => ({
      kind: "events",
      name: `event ${edition} ${scenarioId} ${sequence}`,
      what: { edition, scenarioId, sequence },
    })),
    transaction,
  );
  return events.length;
}
