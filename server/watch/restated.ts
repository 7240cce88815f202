import type { Transaction } from "sequelize";
import { Spans } from "#core/observe/closedBar";
import { asFollowUp, type FollowUp } from "#core/scenarios/events";
import { followTerms } from "#core/scenarios/follow";
import type { OutcomeNote } from "#core/scenarios/note";
import type { WholeTerms } from "#core/scenarios/legs";
import { calendarOf } from "../bars/markets.ts";
import { readTimeframe } from "../bars/timeframes.ts";
import { readClock } from "../clock.ts";
import { FollowUpRow, OutcomeNoteRow, WatcherRow, type Market } from "../database/models.ts";
import { isSealed } from "../database/sealing.ts";
import { appendToRecord } from "../record/append.ts";
import { lastPage } from "../record/told/book.ts";
import { canonicalText } from "../canonical.ts";
import { frozenScenarios } from "../record/frozen.ts";
import { notePart } from "../record/parts.ts";
import { partsOf } from "../record/subject.ts";
import { factsOfWatch } from "./scenarios.ts";
import { toldOf } from "./told.ts";

/** Bars that were changed, or came late, by their labels; `finer` when none had been there before. */
export interface Changed extends Pick<OutcomeNote, "cause" | "from" | "to"> {
  base: string;
  finer: boolean;
}

/**
 * Notes at every published scenario that was told of the time of changed bars that they say something else now, and
 * whether that would have made a difference. What was published, and its follow-ups, stay as they are.
 */
export async function noteOutcomes(market: Market, changed: Changed, transaction: Transaction): Promise<void> {
  const all = await WatcherRow.findAll({ where: { marketId: market.id, kind: "scenario" }, transaction });
  const spans = new Spans(readTimeframe(changed.base), calendarOf(market));
  const [from, to] = [spans.of(changed.from).from, spans.of(changed.to).to];
  if (all.length === 0) return;
  const reach = (await lastPage(market.id, transaction))?.through ?? -Infinity;
  const toldUntil = ({ through }: WatcherRow) => through ?? reach;
  const { now } = await readClock();
  const editions = all.map(({ subject }) => partsOf(subject).edition);
  const frozen = await frozenScenarios(editions, transaction);
  for (const row of all) {
    const { edition, scenarioId } = partsOf(row.subject);
    const scenario = frozen.get(edition)?.get(scenarioId);
    if (!scenario || !isSealed(row) || scenario.since >= to || toldUntil(row) <= from) continue;
    const again = await followAgain(scenario.terms, market, scenario.since, toldUntil(row));
    await note({ edition, scenarioId }, again, { ...changed, now }, transaction);
  }
}

/** What the bars as they are now would have led to, for as long as it was told of them. */
async function followAgain(terms: WholeTerms, market: Market, since: number, until: number): Promise<FollowUp[]> {
  return followTerms(terms, factsOfWatch(market, since), await toldOf(market, terms, until)).events;
}

async function note(
  where: { edition: number; scenarioId: string },
  again: readonly FollowUp[],
  { cause, from, to, finer, now }: Changed & { now: number },
  transaction: Transaction,
): Promise<void> {
  const rows = await FollowUpRow.findAll({ where, order: [["sequence", "ASC"]], transaction });
  const stored = rows.map(({ event }) => asFollowUp(event));
  const last = again.at(-1);
  const content: OutcomeNote = {
    note: finer ? "finer" : "restated",
    cause,
    time: now,
    from,
    to,
    same: gist(again) === gist(stored),
    ...(last ? { last } : {}),
  };
  const sequence = (await OutcomeNoteRow.count({ where, transaction })) + 1;
  const createdAt = Date.now();
  await OutcomeNoteRow.create({ ...where, sequence, note: content, createdAt }, { transaction });
  await appendToRecord([notePart({ ...where, sequence, createdAt, note: content })], transaction);
}

/**
 * What happened at which price, by which a coarse bar and its finer ones are compared: their times differ of
 * themselves.
 */
function gist(events: readonly FollowUp[]): string {
  return canonicalText(events.map(({ event, price, target, step, r }) => ({ event, price, target, step, r })));
}
