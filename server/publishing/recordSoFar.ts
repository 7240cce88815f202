import { asFollowUp, type FollowUp } from "#core/scenarios/events";
import { recordFigures, type CallSoFar, type RecordFigures } from "#core/edition/recordFigures";
import { FollowUpRow, WatcherRow } from "../database/models.ts";
import { partsOf, subjectOf } from "../record/subject.ts";

/**
 * The record as it stands. A call that stood in several editions counts once, as it was published first; each leg that
 * was entered is a trade of its own.
 */
export async function recordSoFar(): Promise<RecordFigures> {
  const [watchers, rows] = await Promise.all([
    WatcherRow.findAll({ where: { kind: "scenario" }, attributes: ["subject", "done"], raw: true }),
    FollowUpRow.findAll({ attributes: ["edition", "scenarioId", "event"], order: [["sequence", "ASC"]] }),
  ]);
  const told = groupBy(rows, ({ edition, scenarioId }) => subjectOf(edition, scenarioId));
  return recordFigures(
    firstOfEach(watchers).map(({ subject, done }): CallSoFar => {
      const events = (told.get(subject) ?? []).map(({ event }) => asFollowUp(event));
      return { isOver: Boolean(done), results: resultsOf(events) };
    }),
  );
}

function firstOfEach<T extends { subject: string }>(watchers: readonly T[]): T[] {
  const first = new Map<string, T>();
  const byEdition = [...watchers].sort((a, b) => partsOf(a.subject).edition - partsOf(b.subject).edition);
  for (const watcher of byEdition) {
    const { scenarioId } = partsOf(watcher.subject);
    if (!first.has(scenarioId)) first.set(scenarioId, watcher);
  }
  return [...first.values()];
}

/** What each leg that was entered came to: the result it told last. */
function resultsOf(events: readonly FollowUp[]): number[] {
  return [...groupBy(events, ({ leg }) => leg ?? 0).values()]
    .filter((own) => own.some(({ event }) => event === "entered"))
    .map((own) => own.findLast(({ r }) => r !== undefined)?.r ?? 0);
}

function groupBy<T, K>(list: readonly T[], keyOf: (one: T) => K): Map<K, T[]> {
  const groups = new Map<K, T[]>();
  for (const one of list) {
    const key = keyOf(one);
    groups.set(key, [...(groups.get(key) ?? []), one]);
  }
  return groups;
}
