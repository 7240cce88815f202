import { randomUUID } from "node:crypto";
import type { Transaction } from "sequelize";
import type { FollowUp } from "#core/scenarios/events";
import { FollowUpRow, WatcherRow, type Market } from "../database/models.ts";
import { isSealed, sealAnew } from "../database/sealing.ts";
import { log } from "../log.ts";
import { announce } from "../outbox/outbox.ts";
import { appendToRecord } from "../record/append.ts";
import { frozenScenarios } from "../record/frozen.ts";
import { followUpPart } from "../record/parts.ts";
import { partsOf } from "../record/subject.ts";
import { appendRows } from "../record/told/book.ts";
import type { Came } from "../record/told/replay.ts";
import { eventsEntered, readyReplay, type CallRow } from "./callReplays.ts";
import { sourceOf, toldRows } from "./toldSources.ts";

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
