import type { Transaction } from "sequelize";
import { completedClose } from "#core/scenarios/closes";
import { followPlan, type FollowUp } from "#core/scenarios/follow";
import { barAt, firstAtOrAfter, type Series } from "#core/series/series";
import type { Timeframe } from "#core/time/timeframe";
import { calendarOf } from "../bars/markets.ts";
import { readTimeframe } from "../bars/timeframes.ts";
import { FollowedPlan, FollowUpRow, type Market } from "../database/models.ts";
import { frozenScenarios } from "../publishing/frozen.ts";
import { appendToRecord } from "../record/append.ts";
import { outcomeDigest } from "../record/entry.ts";

/**
 * Shows new bars to every published plan of a market that is still open, in the transaction that stores the bars:
 * a bar and what it did to a plan are known together or not at all. Returns how many follow-ups were written.
 */
export async function followBars(
  market: Market,
  base: Timeframe,
  bars: Series,
  transaction: Transaction,
): Promise<number> {
  const plans = await FollowedPlan.findAll({
    where: { marketId: market.id, done: false },
    transaction,
    lock: transaction.LOCK.UPDATE,
  });
  const calendar = calendarOf(market);
  const frozen = await frozenScenarios(
    plans.map(({ edition }) => edition),
    transaction,
  );
  let written = 0;
  for (const row of plans) {
    const plan = frozen.get(row.edition)?.get(row.scenarioId);
    if (!plan) continue;
    const trigger = readTimeframe(plan.trigger.timeframe);
    const events: FollowUp[] = [];
    let state = row.state;
    for (let i = firstAtOrAfter(bars, row.lastTime); i < bars.length; i++) {
      const closed = completedClose(bars, i, base, trigger, calendar);
      state = followPlan(plan, state, barAt(bars, i), closed, (event) => events.push(event));
    }
    const sequence = await FollowUpRow.count({
      where: { edition: row.edition, scenarioId: row.scenarioId },
      transaction,
    });
    const { edition, scenarioId } = row;
    const rows = events.map((event, n) => ({
      edition,
      scenarioId,
      sequence: sequence + n + 1,
      event,
      createdAt: Date.now(),
    }));
    await FollowUpRow.bulkCreate(rows, { transaction });
    await appendToRecord(
      rows.map(({ event, ...of }) => ({
        kind: "followUp",
        edition,
        scenarioId,
        sequence: of.sequence,
        digest: outcomeDigest({ ...of, content: event }),
      })),
      transaction,
    );
    written += events.length;
    await row.update(
      { state: { ...state }, lastTime: bars.time[bars.length - 1] + 1, done: state.phase === "done" },
      { transaction },
    );
  }
  return written;
}
