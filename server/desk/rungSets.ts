import { randomUUID } from "node:crypto";
import { Op } from "sequelize";
import type { SaveRungSetDto } from "#contracts/rungs";
import { DEFAULT_SET, highToLow, type RungSet } from "#core/time/rungs";
import { isDuplicate, transact } from "../database/connection.ts";
import { RungSetRow } from "../database/models.ts";
import { Failure, notFound } from "../failure.ts";

export interface RungSets {
  /** The one that is used, also a member of `sets`. */
  chosen: RungSet;
  /** The set everybody has comes first. */
  sets: RungSet[];
}

function toSet({ id, name, rungs, walk, version }: RungSetRow): RungSet {
  return { id, name, rungs, walk, version };
}

export async function rungSetsOf(accountId: string): Promise<RungSets> {
  const rows = await RungSetRow.findAll({ where: { accountId }, order: [["name", "ASC"]] });
  const chosen = rows.find((row) => row.chosen);
  return { chosen: chosen ? toSet(chosen) : DEFAULT_SET, sets: [DEFAULT_SET, ...rows.map(toSet)] };
}

const SETS_OF_ONE = 30;

/** Saves a set, a new one when it has no id; refuses when it was saved elsewhere meanwhile. */
export async function saveRungSet(
  { id, name, rungs: asked, walk, version, chosen }: SaveRungSetDto,
  accountId: string,
): Promise<RungSet> {
  const rungs = highToLow(asked.map(({ rung, role }) => ({ rung, role })));
  if (rungs.length < asked.length)
    throw new Failure("twice", "Two of these rungs are of the same length.", {
      kept: "Nothing was changed.",
      fields: { rungs: "Each length can stand once." },
    });
  return transact(async (transaction) => {
    if (chosen) await RungSetRow.update({ chosen: false }, { where: { accountId }, transaction });
    const content = { name: name.trim(), rungs, walk, chosen };
    const row = id
      ? await RungSetRow.findOne({ where: { id, accountId }, transaction, lock: transaction.LOCK.UPDATE })
      : null;
    if (id && !row) throw notFound("set of rungs");
    if (row && row.version !== version)
      throw new Failure("stale", "This set was changed in another window meanwhile.", {
        status: 409,
        kept: "The other version is stored.",
        remedy: "Open it again, then change it.",
      });
    if (!row && (await RungSetRow.count({ where: { accountId }, transaction })) >= SETS_OF_ONE)
      throw new Failure("many", `There are ${SETS_OF_ONE} sets already.`, {
        kept: "Nothing was changed.",
        remedy: "Remove one first.",
      });
    try {
      const saved = row
        ? await row.update({ ...content, version: version + 1 }, { transaction })
        : await RungSetRow.create({ id: randomUUID(), accountId, version: 1, ...content }, { transaction });
      return toSet(saved);
    } catch (error) {
      if (!isDuplicate(error)) throw error;
      throw new Failure("taken", "You have a set of this name already.", {
        kept: "Nothing was changed.",
        fields: { name: "This name is taken." },
      });
    }
  });
}

/** Uses a set from now on; the one that everybody has when `id` is empty. */
export function chooseRungSet(id: string, accountId: string): Promise<void> {
  return transact(async (transaction) => {
    if (id && !(await RungSetRow.findOne({ where: { id, accountId }, transaction }))) throw notFound("set of rungs");
    await RungSetRow.update({ chosen: false }, { where: { accountId, id: { [Op.ne]: id } }, transaction });
    if (id) await RungSetRow.update({ chosen: true }, { where: { accountId, id }, transaction });
  });
}

export async function removeRungSet(id: string, accountId: string): Promise<void> {
  if ((await RungSetRow.destroy({ where: { id, accountId } })) === 0) throw notFound("set of rungs");
}
