import { Op, type Transaction } from "sequelize";
import { completedClose } from "#core/scenarios/closes";
import { followPlan, WAITING, type FollowUp } from "#core/scenarios/follow";
import type { OutcomeNote } from "#core/scenarios/note";
import type { Scenario } from "#core/scenarios/scenario";
import { barAt, type Series } from "#core/series/series";
import { nominalLength } from "#core/time/timeframe";
import { barsOfBase, holdingsOf } from "../bars/layers.ts";
import { calendarOf, legsOf } from "../bars/markets.ts";
import { readTimeframe } from "../bars/timeframes.ts";
import { FollowedPlan, FollowUpRow, OutcomeNoteRow, type Market } from "../database/models.ts";
import { frozenScenarios } from "../publishing/frozen.ts";
import { appendToRecord } from "../record/append.ts";
import { canonicalText } from "../record/canonical.ts";
import { outcomeDigest } from "../record/entry.ts";
import { readClock } from "./clock.ts";

/**
 * Notes at every published plan that was followed over bars in [from, to] that they say something else now, and
 * whether that would have made a difference. What was published, and its follow-ups, stay as they are.
 */
export async function noteOutcomes(
  market: Market,
  { cause, from, to }: Pick<OutcomeNote, "cause" | "from" | "to">,
  transaction: Transaction,
): Promise<void> {
  const plans = await FollowedPlan.findAll({
    where: { marketId: market.id, since: { [Op.lte]: to }, lastTime: { [Op.gt]: from } },
    transaction,
  });
  if (plans.length === 0) return;
  const { now } = await readClock();
  const frozen = await frozenScenarios(
    plans.map(({ edition }) => edition),
    transaction,
  );
  const base = (await commonBases(market, transaction)).at(-1);
  for (const row of plans) {
    const plan = frozen.get(row.edition)?.get(row.scenarioId);
    if (!plan) continue;
    const bars = base === undefined ? undefined : await barsOfBase(market, base, row.since, row.lastTime, transaction);
    const again = bars && base !== undefined ? followAgain(plan, row.since, bars, base, market) : [];
    const where = { edition: row.edition, scenarioId: row.scenarioId };
    const stored = (await FollowUpRow.findAll({ where, order: [["sequence", "ASC"]], transaction })).map(
      ({ event }) => event,
    );
    const same = canonicalText(again) === canonicalText(stored);
    const last = again.at(-1);
    const note: OutcomeNote = { note: "restated", cause, time: now, from, to, same, ...(last ? { last } : {}) };
    const sequence = (await OutcomeNoteRow.count({ where, transaction })) + 1;
    const createdAt = Date.now();
    await OutcomeNoteRow.create({ ...where, sequence, note, createdAt }, { transaction });
    await appendToRecord(
      [{ kind: "note", ...where, sequence, digest: outcomeDigest({ ...where, sequence, createdAt, content: note }) }],
      transaction,
    );
  }
}

function followAgain(plan: Scenario, since: number, bars: Series, base: string, market: Market): FollowUp[] {
  const events: FollowUp[] = [];
  const calendar = calendarOf(market);
  const own = readTimeframe(base);
  const trigger = readTimeframe(plan.trigger.timeframe);
  let state = WAITING;
  for (let i = 0; i < bars.length; i++) {
    if (bars.time[i] < since) continue;
    state = followPlan(plan, state, barAt(bars, i), completedClose(bars, i, own, trigger, calendar), (event) =>
      events.push(event),
    );
  }
  return events;
}

/** Resolutions that a market, or each leg of a derived one, has bars of: the longest first. */
async function commonBases(market: Market, transaction: Transaction): Promise<string[]> {
  if (!market.formula) return (await holdingsOf(market.id, transaction)).map(({ base }) => base);
  const legs = await Promise.all((await legsOf(market, transaction)).map((leg) => commonBases(leg, transaction)));
  const [first = [], ...others] = legs;
  return first
    .filter((base) => others.every((bases) => bases.includes(base)))
    .sort((a, b) => nominalLength(readTimeframe(b)) - nominalLength(readTimeframe(a)));
}
