import { LRUCache } from "lru-cache";
import { col, fn, type Transaction } from "sequelize";
import type { ClosedBar } from "#core/observe/closedBar";
import { closedBars } from "#core/observe/closedBars";
import { wholeNeeds } from "#core/scenarios/legs";
import { RecordEntry, type Market, type WatcherRow } from "../database/models.ts";
import { isSealed } from "../database/sealing.ts";
import { log } from "../log.ts";
import { partsOf, subjectOf } from "../record/subject.ts";
import { beginGeneration, keepReach, readPages, readRows } from "../record/told/book.ts";
import { pagesFault, type ToldFacts, type ToldPage } from "../record/told/page.ts";
import { Replay, type Call } from "../record/told/replay.ts";
import { differing, generationsOf, inBlocks, lies, ownBars, readsAlike } from "../record/told/restatedRows.ts";
import { restatedEntered, restatedSpans } from "../record/told/stored.ts";
import { keptTail, reaches } from "../record/told/tails.ts";
import { publicKeys } from "../signing.ts";
import { endOfStored, factsFor, holds, sourceOf, toldRows } from "./toldSources.ts";

/**
 * Calls of markets as this process last worked them out. What it holds is never taken from a row that may change: it
 * was worked out from sealed pages, and is so again where it is not held.
 */
const replays = new LRUCache<string, Replay>({ max: 400 });

/** For a process that works on one desk after the other, as tests do. */
export function forgetReplays(): void {
  replays.clear();
}

/** A call with the row that finds it. */
export interface CallRow extends Call {
  row: WatcherRow;
}

/**
 * A market's calls worked out as far as pages go, and a generation of pages that holds all they need. None where the
 * pages are not what was sealed: nothing is said of these calls then, and the log says why.
 */
export async function readyReplay(
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

/** How many follow-ups of some calls are in the record, by their subjects. */
export async function eventsEntered(calls: readonly Call[], transaction: Transaction): Promise<Map<string, number>> {
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
