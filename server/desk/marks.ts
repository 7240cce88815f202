import { randomUUID } from "node:crypto";
import type { StepDto } from "#contracts/mark";
import type { Mark } from "#core/marks/kind";
import { readMark } from "#core/marks/registry";
import { findMarket } from "../bars/markets.ts";
import { transact } from "../database/connection.ts";
import { MarkRow, StepRow } from "../database/models.ts";
import { Failure } from "../failure.ts";
import { readClock } from "../feed/clock.ts";

function toMark(row: MarkRow): Mark {
  const { id, kind, marketId: market, rung, anchors, props, note, author, version } = row;
  return { id, kind, market, rung, anchors, props, note, author, version };
}

export async function marksOf(marketId: string): Promise<Mark[]> {
  const rows = await MarkRow.findAll({ where: { marketId, removed: false }, order: [["id", "ASC"]] });
  return rows.map(toMark);
}

export interface StepOutcome {
  /** Marks as they stand after the steps. */
  marks: Mark[];
  /** Version of every mark the steps named, removed ones too. */
  versions: Record<string, number>;
  /** Ids of marks that somebody else had changed meanwhile: nothing of this request was applied. */
  conflicts: string[];
}

/**
 * Applies a group of steps wholly or, when a mark has another version than the step was made on, not at all.
 * Sending the same group twice changes nothing the second time: steps are known by their ids.
 */
export function applySteps(marketId: string, steps: readonly StepDto[], author: string): Promise<StepOutcome> {
  return transact(async (transaction) => {
    await findMarket(marketId, transaction);
    const { now } = await readClock();
    const ids = [...new Set(steps.map(({ mark }) => mark.id))];
    const rows = new Map(
      (await MarkRow.findAll({ where: { id: ids }, transaction, lock: transaction.LOCK.UPDATE })).map((row) => [row.id, row]),
    );
    const done = new Set(
      (await StepRow.findAll({ where: { id: steps.map(({ id }) => id) }, transaction, raw: true })).map(({ id }) => id),
    );
    const fresh = steps.filter(({ id }) => !done.has(id));
    const conflicts = fresh.filter((step, i) => isStale(step, rows.get(step.mark.id), fresh.slice(0, i)));
    const outcome = (stale: readonly StepDto[]): StepOutcome => ({
      marks: [...rows.values()].filter(({ removed }) => !removed).map(toMark),
      versions: Object.fromEntries([...rows.values()].map(({ id, version }) => [id, version])),
      conflicts: stale.map(({ mark }) => mark.id),
    });
    if (conflicts.length > 0) return outcome(conflicts);
    for (const step of fresh) {
      const row = await applyStep(marketId, step, rows.get(step.mark.id), author, transaction);
      rows.set(row.id, row);
      await StepRow.create(
        { id: step.id, marketId, markId: row.id, accountId: author, step: { ...step }, wallTime: Date.now(), marketTime: now },
        { transaction },
      );
    }
    return outcome([]);
  });
}

/** Later steps of one group build on the earlier ones, so only the first step of a mark is compared. */
function isStale(step: StepDto, row: MarkRow | undefined, before: readonly StepDto[]): boolean {
  if (before.some(({ mark }) => mark.id === step.mark.id)) return false;
  return (row?.version ?? 0) !== step.version;
}

async function applyStep(
  marketId: string,
  { step, mark }: StepDto,
  row: MarkRow | undefined,
  author: string,
  transaction: NonNullable<Parameters<MarkRow["save"]>[0]>["transaction"],
): Promise<MarkRow> {
  if (row && row.marketId !== marketId) throw new Failure("mark", "The mark belongs to another market.", { status: 404 });
  const { kind, rung, anchors, props, note, id } = mark;
  const plain = anchors.map(({ time, price }) => ({ time, price }));
  const read = readMark({ id, kind, market: marketId, rung, anchors: plain, props, note, author, version: 0 });
  if (typeof read === "string") throw new Failure("mark", read, { kept: "Nothing was changed.", status: 400 });
  const content = { kind, rung, anchors: plain, props: read.props, note, removed: step === "remove" };
  if (row) return row.update({ ...content, version: row.version + 1 }, { transaction });
  return MarkRow.create({ id: id || randomUUID(), marketId, author, version: 1, ...content }, { transaction });
}
