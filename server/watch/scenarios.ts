import type { Transaction } from "sequelize";
import { asInstant } from "#core/observe/instant";
import type { FollowUp } from "#core/scenarios/events";
import { wholeWatcher, type WholeState, type WholeTerms } from "#core/scenarios/legs";
import type { ScenarioFacts } from "#core/scenarios/run";
import { FollowUpRow, type Market, type WatcherRow } from "../database/models.ts";
import { announce } from "../outbox/outbox.ts";
import { appendToRecord } from "../record/append.ts";
import { outcomeDigest } from "../record/entry.ts";
import { frozenScenarios } from "../record/frozen.ts";
import { partsOf } from "../record/subject.ts";
import type { Kind, Watched } from "./kind.ts";

/** Published scenarios: what the bars do to them is a follow-up, and an entry of the record. */
export const scenarios: Kind = {
  async prepare(market, rows, transaction) {
    const subjects = rows.map(({ subject }) => partsOf(subject));
    const frozen = await frozenScenarios(
      subjects.map(({ edition }) => edition),
      transaction,
    );
    return rows.map((row, i) => {
      const { edition, scenarioId } = subjects[i];
      const scenario = frozen.get(edition)?.get(scenarioId);
      // What is not what was published is not followed; the log has said so.
      return scenario ? (watched(row, scenario.terms, market) as Watched) : "unknown";
    });
  },
};

export function factsOfWatch(market: Pick<Market, "tick" | "calendar">, since: number): ScenarioFacts {
  return { since: asInstant(since), tick: market.tick, zone: market.calendar.zone };
}

function watched(row: WatcherRow, terms: WholeTerms, market: Market): Watched<WholeState, FollowUp> {
  const { edition, scenarioId } = partsOf(row.subject);
  return {
    row,
    watcher: wholeWatcher(terms, factsOfWatch(market, row.since)),
    keep: (events, transaction) => keep(edition, scenarioId, events, transaction),
  };
}

async function keep(
  edition: number,
  scenarioId: string,
  events: readonly FollowUp[],
  transaction: Transaction,
): Promise<number> {
  const before = await FollowUpRow.count({ where: { edition, scenarioId }, transaction });
  const createdAt = Date.now();
  const rows = events.map((event, n) => ({ edition, scenarioId, sequence: before + n + 1, event, createdAt }));
  await FollowUpRow.bulkCreate(rows, { transaction });
  const entries = rows.map(({ event, ...of }) => ({
    kind: "followUp" as const,
    edition,
    scenarioId,
    sequence: of.sequence,
    digest: outcomeDigest({ ...of, content: event }),
  }));
  await appendToRecord(entries, transaction);
  await announce(
    rows.map(({ sequence, event }) => ({
      kind: "events",
      name: `event ${edition} ${scenarioId} ${sequence}`,
      what: { edition, scenarioId, sequence, event },
    })),
    transaction,
  );
  return events.length;
}
