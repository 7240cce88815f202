import { Op, type Transaction } from "sequelize";
import { unmerge } from "#core/series/merge";
import { firstAtOrAfter, slice } from "#core/series/series";
import { audit } from "../audit/audit.ts";
import { transact } from "../database/connection.ts";
import { BarImport } from "../database/models.ts";
import { Failure, notFound } from "../failure.ts";
import { readClock } from "../clock.ts";
import { barsAppended, barsRestated } from "../watch/changes.ts";
import { stretchOf } from "../bars/changes.ts";
import { decode, readBars, replaceFrom } from "../bars/chunks.ts";
import { lockMarket } from "../bars/markets.ts";

export interface Undone {
  market: string;
  fileName: string;
  removed: number;
  putBack: number;
}

/**
 * Takes an import back: bars it added go, bars it replaced return, all in one transaction. Of two imports over the
 * same stretch the later one must be taken back first, for it was told what differs against the earlier.
 */
export function undoImport(id: string, accountId: string): Promise<Undone> {
  return transact(async (transaction) => {
    const found = await BarImport.findByPk(id, { transaction });
    if (!found) throw notFound("import");
    const market = await lockMarket(found.marketId, transaction);
    const one = await found.reload({ transaction, lock: transaction.LOCK.UPDATE });
    if (one.standing === null)
      throw new Failure("undone", "This import has been undone before.", { kept: "Nothing was changed." });
    if (!one.addedRuns || !one.replaced || one.firstTime === null || one.lastTime === null)
      throw new Failure("old", "This import was made before imports could be undone.", {
        kept: "Nothing was changed.",
      });
    await refuseIfCovered(one, one.firstTime, one.lastTime, transaction);
    const runs = new Uint8Array(one.addedRuns);
    const merged = { addedRuns: new Float64Array(runs.buffer), replaced: decode(one.replaced) };
    const { base, fileName } = one;
    let removed = 0;
    if (merged.addedRuns.length + merged.replaced.length > 0) {
      const stretch = stretchOf(merged);
      const shelf = { marketId: market.id, base, shelf: "live" as const };
      const now = await readBars(shelf, stretch.from, Infinity, transaction);
      const before = unmerge(now, merged);
      removed = now.length - before.length;
      await replaceFrom(
        shelf,
        stretch.from,
        slice(before, firstAtOrAfter(before, stretch.from), before.length),
        transaction,
      );
      const bars = removed + merged.replaced.length;
      await barsRestated(
        market,
        { base, ...stretch, finer: false },
        { cause: "undo", importId: id, bars, accountId },
        transaction,
      );
      await barsAppended([market], (await readClock()).now, transaction);
    }
    // What would undo it has done so.
    await one.update({ standing: null, undoneAt: Date.now(), addedRuns: null, replaced: null }, { transaction });
    await audit({
      what: "import undone",
      subject: `${market.name}, ${base}: ${fileName}`,
      detail: { removed, putBack: merged.replaced.length },
    });
    return { market: market.id, fileName, removed, putBack: merged.replaced.length };
  });
}

async function refuseIfCovered(
  { id, marketId, base, createdAt }: BarImport,
  from: number,
  to: number,
  transaction: Transaction,
): Promise<void> {
  const later = await BarImport.findOne({
    where: {
      marketId,
      base,
      standing: 1,
      id: { [Op.ne]: id },
      createdAt: { [Op.gte]: createdAt },
      firstTime: { [Op.lte]: to },
      lastTime: { [Op.gte]: from },
    },
    order: [["createdAt", "DESC"]],
    attributes: ["fileName"],
    transaction,
  });
  if (later)
    throw new Failure("covered", `A later import, ${later.fileName}, covers some of the same bars.`, {
      kept: "Nothing was changed.",
      remedy: "Undo that one first.",
    });
}
