import { randomUUID } from "node:crypto";
import { LRUCache } from "lru-cache";
import { Op, QueryTypes, type Transaction } from "sequelize";
import type { StepDto } from "#contracts/mark";
import type { CopyOf } from "#core/marks/equivalent";
import type { FoundFrom } from "#core/marks/foundFrom";
import type { Mark } from "#core/marks/kind";
import { knownFrom } from "#core/marks/knownFrom";
import { readMark } from "#core/marks/registry";
import { calendarOf, findMarket } from "../bars/markets.ts";
import { audit } from "../audit/audit.ts";
import { isDuplicate, theDatabase, transact } from "../database/connection.ts";
import { MarkRow, StepRow, type Market, type StoredStep } from "../database/models.ts";
import { Failure, notFound } from "../failure.ts";
import { momentOf } from "./moment.ts";

function toMark(row: MarkRow): Mark {
  const {
    id,
    kind,
    marketId: market,
    rung,
    anchors,
    props,
    note,
    author,
    version,
    locked,
    hidden,
    copied,
    found,
  } = row;
  return {
    id,
    kind,
    market,
    rung,
    anchors,
    props,
    note,
    author,
    version,
    ...extras({ locked, hidden, copied, found }),
  };
}

/** What a mark may carry besides its content, only as far as it says something. */
export function extras({
  locked,
  hidden,
  copied,
  found,
}: {
  locked?: boolean;
  hidden?: boolean;
  copied?: CopyOf | null;
  found?: FoundFrom | null;
}): Pick<Mark, "locked" | "hidden" | "copied" | "found"> {
  return {
    ...(locked ? { locked } : {}),
    ...(hidden ? { hidden } : {}),
    ...(copied ? { copied } : {}),
    ...(found ? { found } : {}),
  };
}

export async function marksOf(marketId: string): Promise<Mark[]> {
  const rows = await MarkRow.findAll({ where: { marketId, removed: false }, order: [["id", "ASC"]] });
  return rows.map(toMark);
}

/**
 * The marks of a market as they stood at a moment: each in the version that was the last one said by then and known by
 * then. What was placed later, or hangs on a bar that had not closed, is not there yet; what was taken away later is.
 */
export async function marksAt(market: Market, moment: number): Promise<Mark[]> {
  const [steps, rows] = await Promise.all([
    StepRow.findAll({
      where: { marketId: market.id, marketTime: { [Op.lte]: moment } },
      order: [["number", "ASC"]],
      attributes: ["markId", "step", "marketTime"],
    }),
    MarkRow.findAll({ where: { marketId: market.id }, attributes: ["id", "author", "version"], raw: true }),
  ]);
  const of = new Map(rows.map((row) => [row.id, row]));
  const calendar = calendarOf(market);
  const stood = new Map<string, Mark>();
  for (const { markId, step, marketTime } of steps) {
    const row = of.get(markId);
    const said = row && asSaid(step.mark, market.id, row);
    if (step.step === "remove") stood.delete(markId);
    else if (said && knownFrom(said, marketTime, calendar) <= moment) stood.set(markId, said);
  }
  return [...stood.values()].sort((a, b) => (a.id < b.id ? -1 : 1));
}

/** A mark as a step set it, read like any other: what former versions could say is read as today's. */
function asSaid(
  { id, kind, rung, anchors, props, note, locked, hidden, copied, found }: StoredStep["mark"],
  market: string,
  { author, version }: Pick<MarkRow, "author" | "version">,
): Mark | undefined {
  const plain = { id, kind, market, rung, anchors, props, note, author, version };
  const read = readMark({ ...plain, ...extras({ locked, hidden, copied, found }) });
  return typeof read === "string" ? undefined : read;
}

/** All marks of a market, and its count of changes of them at that moment. */
export async function markedMarket(marketId: string): Promise<{ marks: Mark[]; marked: number }> {
  // Counted first: what is changed in between is then asked for once more.
  const { marked } = await findMarket(marketId);
  return { marks: await marksOf(marketId), marked };
}

export interface StepOutcome {
  /** The market's count of changes of its marks, these steps included. */
  marked: number;
  /** Marks as they stand after the steps. */
  marks: Mark[];
  /** Version of every mark the steps named, removed ones too. */
  versions: Record<string, number>;
  /** Ids of marks that somebody else had changed meanwhile: nothing of this request was applied. */
  conflicts: string[];
}

/**
 * Applies a group of steps wholly or, when a mark has another version than the step was made on, not at all.
 * Sending the same group twice changes nothing the second time: steps are known by their ids. `at` is the past moment
 * the desk stood at; now where there is none.
 */
export async function applySteps(
  marketId: string,
  steps: readonly StepDto[],
  author: string,
  at?: number,
): Promise<StepOutcome> {
  if (new Set(steps.map(({ id }) => id)).size < steps.length)
    throw new Failure("fields", "Two steps have the same id.", { status: 400, kept: "Nothing was changed." });
  const group = { marketId, steps, author, at };
  try {
    const outcome = await applyOnce(group, false);
    // What looks stale may have been done by the same group, whose answer was lost.
    return outcome.conflicts.length === 0 ? outcome : await applyOnce(group, true);
  } catch (error) {
    // The same group came once more: now it is known to be done.
    if (!isDuplicate(error)) throw error;
    return applyOnce(group, true);
  }
}

interface Group {
  marketId: string;
  steps: readonly StepDto[];
  author: string;
  at: number | undefined;
}

/**
 * `again` asks first what is there and which of the steps were done before. It is not asked where every mark is said to
 * be new: one that is there after all cannot be stored twice, and whoever saves would wait for the question.
 */
function applyOnce({ marketId, steps, author, at }: Group, again: boolean): Promise<StepOutcome> {
  return transact(async (transaction) => {
    const asks = again || steps.some(({ version }) => version !== 0);
    const rows = asks ? await namedMarks(steps, transaction) : new Map<string, MarkRow>();
    const done = again ? await doneBefore(steps, transaction) : new Set<string>();
    const own = again ? await removedBy(author, rows, transaction) : new Set<string>();
    const fresh = steps.filter(({ id }) => !done.has(id));
    await checkRoom(
      marketId,
      fresh.filter(({ step, mark }) => step === "set" && !rows.has(mark.id)).length,
      transaction,
    );
    const conflicts = fresh.filter((step, i) =>
      isStale(
        step,
        rows.get(step.mark.id),
        fresh.slice(0, i),
        steps.filter(({ id }) => done.has(id)),
        own,
      ),
    );
    const outcome = (marked: number): StepOutcome => ({
      marked,
      marks: [...rows.values()].filter(({ removed }) => !removed).map(toMark),
      versions: Object.fromEntries([...rows.values()].map(({ id, version }) => [id, version])),
      conflicts: conflicts.map(({ mark }) => mark.id),
    });
    if (conflicts.length > 0 || fresh.length === 0) return outcome((await findMarket(marketId, transaction)).marked);
    const marketTime = await momentOf(marketId, at);
    // Known is all that is read: from here on whoever saves on the same market waits, for what is written alone.
    const marked = await countChange(marketId, transaction);
    for (const step of fresh) {
      const row = await applyStep(marketId, step, rows.get(step.mark.id), author, transaction);
      rows.set(row.id, row);
    }
    await StepRow.bulkCreate(
      fresh.map((step) => ({
        id: step.id,
        marketId,
        markId: step.mark.id,
        accountId: author,
        step: { step: step.step, mark: { ...step.mark } },
        wallTime: Date.now(),
        marketTime,
      })),
      { transaction },
    );
    return outcome(marked);
  });
}

/** The marks that steps name, held until they are stored. */
async function namedMarks(steps: readonly StepDto[], transaction: Transaction): Promise<Map<string, MarkRow>> {
  const where = { id: [...new Set(steps.map(({ mark }) => mark.id))] };
  const rows = await MarkRow.findAll({ where, transaction, lock: transaction.LOCK.UPDATE });
  return new Map(rows.map((row) => [row.id, row]));
}

async function doneBefore(steps: readonly StepDto[], transaction: Transaction): Promise<Set<string>> {
  const where = { id: steps.map(({ id }) => id) };
  return new Set((await StepRow.findAll({ where, attributes: ["id"], transaction, raw: true })).map(({ id }) => id));
}

/** The very id, letter by letter: the database takes capitals and accents for the same one. */
const COUNT_CHANGE = "UPDATE markets SET marked = LAST_INSERT_ID(marked + 1) WHERE id = ? AND BINARY id = ?";

/** Counts a change of a market's marks and holds the market until it is stored; the new count. */
async function countChange(id: string, transaction: Transaction): Promise<number> {
  // Counted and told in one question: a second one would be waited for by everybody who saves here.
  const [counted] = (await theDatabase().query(COUNT_CHANGE, {
    ...{ replacements: [id, id], type: QueryTypes.RAW, transaction },
  })) as unknown as [{ affectedRows: number; insertId: bigint | number }];
  if (counted.affectedRows === 0) throw notFound("market");
  return Number(counted.insertId);
}

/**
 * Marks that were taken away, last by somebody themselves: setting one anew contradicts nobody, though a page that was
 * loaded meanwhile does not know that there was one.
 */
async function removedBy(
  author: string,
  rows: ReadonlyMap<string, MarkRow>,
  transaction: Transaction,
): Promise<Set<string>> {
  const removed = [...rows.values()].filter((row) => row.removed).map(({ id }) => id);
  if (removed.length === 0) return new Set();
  const steps = await StepRow.findAll({
    where: { markId: removed },
    order: [["number", "ASC"]],
    attributes: ["markId", "accountId"],
    transaction,
    raw: true,
  });
  const last = new Map(steps.map(({ markId, accountId }) => [markId, accountId]));
  return new Set(removed.filter((id) => last.get(id) === author));
}

/**
 * Later steps of one group build on the earlier ones, so only the first step of a mark is compared. Those that were
 * done before (their answer was lost) have each made one version of it.
 */
function isStale(
  { mark, version }: StepDto,
  row: MarkRow | undefined,
  before: readonly StepDto[],
  done: readonly StepDto[],
  own: ReadonlySet<string>,
): boolean {
  const ofMark = (step: StepDto) => step.mark.id === mark.id;
  if (before.some(ofMark) || (version === 0 && own.has(mark.id))) return false;
  return (row?.version ?? 0) !== version + done.filter(ofMark).length;
}

/** Marks a market may have: more than anybody places, fewer than would make its page stand still. */
const MOST_MARKS = 10_000;

/**
 * How many a market had when it was last counted: counting ten thousand rows at every mark would be dearer than the
 * marks.
 */
const counted = new LRUCache<string, number>({ max: 10_000, ttl: 10_000 });

async function checkRoom(marketId: string, more: number, transaction: Transaction): Promise<void> {
  if (more === 0) return;
  const count =
    (counted.get(marketId) ?? (await MarkRow.count({ where: { marketId, removed: false }, transaction }))) + more;
  counted.set(marketId, count, { ttl: counted.getRemainingTTL(marketId) || 10_000 });
  if (count <= MOST_MARKS) return;
  throw new Failure("many", `A market has at most ${MOST_MARKS.toLocaleString("en")} marks.`, {
    kept: "Nothing was changed.",
    remedy: "Remove some that are no longer wanted.",
  });
}

/** A locked mark stays where it is, whoever asks, until it is unlocked. */
function checkLock({ step, mark }: Pick<StepDto, "step" | "mark">, row: MarkRow | undefined): void {
  if (!row?.locked || row.removed) return;
  const moved =
    mark.kind !== row.kind ||
    mark.rung !== row.rung ||
    mark.anchors.length !== row.anchors.length ||
    mark.anchors.some(({ time, price }, i) => time !== row.anchors[i].time || price !== row.anchors[i].price);
  if (step === "remove" || (mark.locked === true && moved))
    throw new Failure("locked", "The mark is locked.", {
      kept: "Nothing was changed.",
      remedy: "Unlock it first.",
      status: 400,
    });
}

async function applyStep(
  marketId: string,
  { step, mark }: StepDto,
  row: MarkRow | undefined,
  author: string,
  transaction: Transaction,
): Promise<MarkRow> {
  if (row && row.marketId !== marketId)
    throw new Failure("mark", "The mark belongs to another market.", { status: 404 });
  checkLock({ step, mark }, row);
  if (row && row.author !== author && !row.removed) {
    const { kind: was, rung: stood, anchors: at, props: said, note: noted } = row;
    await audit({
      what: step === "remove" ? "mark removed" : "mark changed",
      subject: `${was} ${mark.id.slice(0, 8)} on ${marketId}`,
      detail: { of: row.author, before: { kind: was, rung: stood, anchors: at, props: said, note: noted } },
    });
  }
  const { kind, rung, anchors, props, note, id, locked, hidden, copied, found } = mark;
  const plain = anchors.map(({ time, price }) => ({ time, price }));
  const read = readMark({
    id,
    kind,
    market: marketId,
    rung,
    anchors: plain,
    props,
    note,
    author,
    version: 0,
    ...extras({ locked, hidden, copied, found }),
  });
  if (typeof read === "string") throw new Failure("mark", read, { kept: "Nothing was changed.", status: 400 });
  const content = {
    kind,
    rung,
    anchors: plain,
    props: read.props,
    note,
    removed: step === "remove",
    locked: read.locked ?? false,
    hidden: read.hidden ?? false,
    copied: read.copied ?? null,
    found: read.found ?? null,
  };
  if (row) return row.update({ ...content, version: row.version + 1 }, { transaction });
  return MarkRow.create({ id: id || randomUUID(), marketId, author, version: 1, ...content }, { transaction });
}
