import { asFollowUp, type FollowUp } from "#core/scenarios/events";
import { isSeveral, type WholeTerms } from "#core/scenarios/legs";
import { recordFigures, type CallSoFar, type RecordFigures } from "#core/edition/recordFigures";
import { FollowUpRow, WatcherRow } from "../database/models.ts";
import { frozenScenarios } from "../record/frozen.ts";
import { partsOf, subjectOf } from "../record/subject.ts";

/** The record as it stands. A call that stood in several editions counts once, as it was published first. */
export async function recordSoFar(): Promise<RecordFigures> {
  const [watchers, rows] = await Promise.all([
    WatcherRow.findAll({ where: { kind: "scenario" }, attributes: ["subject", "done"], raw: true }),
    FollowUpRow.findAll({ attributes: ["edition", "scenarioId", "event"], order: [["sequence", "ASC"]] }),
  ]);
  const told = groupBy(rows, ({ edition, scenarioId }) => subjectOf(edition, scenarioId));
  const first = firstOfEach(watchers);
  const frozen = await frozenScenarios(first.map(({ subject }) => partsOf(subject).edition));
  return recordFigures(
    first.map(({ subject, done }): CallSoFar => {
      const { edition, scenarioId } = partsOf(subject);
      const terms = frozen.get(edition)?.get(scenarioId)?.terms;
      const result =
        terms &&
        resultOfCall(
          terms,
          (told.get(subject) ?? []).map(({ event }) => asFollowUp(event)),
        );
      return { isOver: Boolean(done), ...(result === undefined ? {} : { result }) };
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

/**
 * What a call came to, as its events tell it: of each leg that was entered the result it told last, by its share of the
 * risk of the call. `undefined` of one that was never entered.
 */
export function resultOfCall(terms: WholeTerms, events: readonly FollowUp[]): number | undefined {
  const entered = [...groupBy(events, ({ leg }) => leg ?? 0)].filter(([, own]) =>
    own.some(({ event }) => event === "entered"),
  );
  if (entered.length === 0) return undefined;
  const shareOf = (leg: number) => (isSeveral(terms) ? (terms.legs[leg - 1]?.risk ?? 0) : 1);
  return entered.reduce(
    (sum, [leg, own]) => sum + shareOf(leg) * (own.findLast(({ r }) => r !== undefined)?.r ?? 0),
    0,
  );
}

export function groupBy<T, K>(list: readonly T[], keyOf: (one: T) => K): Map<K, T[]> {
  const groups = new Map<K, T[]>();
  for (const one of list) {
    const key = keyOf(one);
    groups.set(key, [...(groups.get(key) ?? []), one]);
  }
  return groups;
}
