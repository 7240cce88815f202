import { Op, type Transaction } from "sequelize";
import { DAY } from "#core/time/dates";
import type { Merge } from "#core/series/merge";
import type { Shelf } from "../bars/chunks.ts";
import { readBars } from "../bars/chunks.ts";
import { BarImport } from "../database/models.ts";
import type { ImportReport } from "./import.ts";

/** Gaps of a day's pieces that are listed one by one. */
const LISTED = 20;

/** A piece of what a program sends, stored. */
export interface Piece {
  sha256: string;
  fileName: string;
  accountId: string;
  report: ImportReport;
  merged: Pick<Merge, "addedRuns" | "replaced">;
  firstTime: number;
  lastTime: number;
}

/**
 * Adds a piece of what a program sends to the day's import it goes on from: a feed that sends a bar a minute makes one
 * import a day, which is undone as one, and not a thousand. Only what went in at the end without a question goes on;
 * whether it did.
 */
export async function addToDay(
  shelf: Shelf,
  { sha256, fileName, accountId, report, merged, firstTime, lastTime }: Piece,
  now: number,
  transaction: Transaction,
): Promise<boolean> {
  const newest = await BarImport.findOne({
    where: { marketId: shelf.marketId, base: shelf.base, createdAt: { [Op.gte]: Math.floor(now / DAY) * DAY } },
    order: [["createdAt", "DESC"]],
    transaction,
  });
  const before = newest?.report as (ImportReport & { pieces?: number }) | undefined;
  if (!newest?.addedRuns || before?.pieces === undefined || newest.standing === null) return false;
  if (newest.fileName !== fileName || newest.accountId !== accountId) return false;
  if (merged.replaced.length > 0 || report.leftOutCount > 0 || report.differing > 0) return false;
  const runs = [...new Float64Array(new Uint8Array(newest.addedRuns).buffer)];
  const last = runs.at(-1) ?? -Infinity;
  // All of it was there: there is nothing to undo, and nothing to write down.
  if (merged.addedRuns.length === 0) return true;
  const [from, to, ...more] = merged.addedRuns;
  if (from <= last) return false;
  // One stretch as long as nothing else lies between.
  const between = runs.length === 0 || (await readBars(shelf, last + 1, from, transaction)).length > 0;
  if (between) runs.push(from, to);
  else runs[runs.length - 1] = to;
  runs.push(...more);
  const { rows, added, same, repeated, gaps, pieces } = before;
  await newest.update(
    {
      sha256,
      firstTime: Math.min(newest.firstTime ?? firstTime, firstTime),
      lastTime: Math.max(newest.lastTime ?? lastTime, lastTime),
      addedRuns: Buffer.from(Float64Array.from(runs).buffer),
      report: {
        ...{ ...before, rows: rows + report.rows, added: added + report.added, same: same + report.same },
        ...{ repeated: repeated + report.repeated, pieces: pieces + 1 },
        gaps: {
          count: gaps.count + report.gaps.count,
          listed: [...gaps.listed, ...report.gaps.listed].slice(0, LISTED),
        },
      },
    },
    { transaction },
  );
  return true;
}
