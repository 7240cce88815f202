import { randomUUID } from "node:crypto";
import type { PlanDto } from "#contracts/plan";
import { KIND_NAMES, type EditionKind } from "#core/edition/blocks";
import { PARTS, partsInOrder, type EditionPart } from "#core/edition/parts";
import type { Person } from "./sessions.ts";
import { audit } from "../audit/audit.ts";
import { isDuplicate, transact } from "../database/connection.ts";
import { readOnce } from "../database/readOnce.ts";
import { Account, PlanRow } from "../database/models.ts";
import { isSealed, sealAnew } from "../database/sealing.ts";
import { Failure, notFound } from "../failure.ts";
import { log } from "../log.ts";

/** What somebody may see of editions, and when. */
export interface Sight {
  parts: readonly EditionPart[];
  kinds: readonly EditionKind[];
  /** Hours after an edition was published, or NEXT_CLOSE. */
  wait: number;
}

/** Those who work at the desk see everything at once. */
export const WHOLE: Sight = { parts: PARTS, kinds: KIND_NAMES, wait: 0 };
/** Nothing but what everybody sees: of a reader whose plan is gone. */
const NOTHING: Sight = { parts: [], kinds: [], wait: 0 };

export interface Plan extends Sight {
  id: string;
  name: string;
  version: number;
  /** Whether anybody may join on it. */
  open: boolean;
  /** What it costs, in words; empty where it is not for sale. */
  price: string;
}

const MOST_PLANS = 12;

const planOf = ({ id, name, parts, kinds, wait, version, open, price }: PlanRow): Plan => ({
  id,
  name,
  parts,
  kinds,
  wait,
  version,
  open,
  price,
});

/** A desk that begins has no plan that anybody may join on by themselves, until its owner opens one. */
export async function closePlans(): Promise<void> {
  for (const plan of await PlanRow.findAll({ where: { open: true } })) await plan.update({ open: false });
}

/** Every plan, the fullest first. */
export async function listPlans(): Promise<(Plan & { readers: number })[]> {
  const plans = (await PlanRow.findAll()).map(planOf);
  const readers = await Account.findAll({
    where: { role: "subscriber", closedAt: null },
    attributes: ["plan"],
    raw: true,
  });
  return plans
    .map((plan) => ({ ...plan, readers: readers.filter(({ plan: own }) => own === plan.id).length }))
    .sort((a, b) => b.parts.length - a.parts.length || a.name.localeCompare(b.name));
}

export async function findPlan(id: string): Promise<Plan> {
  const row = id.length <= 36 ? await PlanRow.findByPk(id) : null;
  if (!row) throw notFound("plan");
  return planOf(row);
}

/** What somebody may see: of a reader what their plan says at this moment. Whose plan is not yet known is asked for. */
export async function sightOf({ id, role, plan }: Pick<Person, "id" | "role"> & { plan?: string }): Promise<Sight> {
  if (role !== "subscriber") return WHOLE;
  const own = plan ?? (await Account.findByPk(id, { attributes: ["plan"], raw: true }))?.plan;
  if (own === undefined) return NOTHING;
  const row = await readOnce(["plan", own], () => PlanRow.findByPk(own));
  return row ? sightOfPlan(row) : NOTHING;
}

function sightOfPlan(row: PlanRow): Sight {
  if (!isSealed(row)) {
    log.error({ plan: row.id }, "a plan says what the desk did not decide: it shows nothing until it is saved again");
    return NOTHING;
  }
  const { parts, kinds, wait } = planOf(row);
  return { parts: partsInOrder(parts), kinds, wait };
}

/** What each plan shows, by its id. */
export async function sightsByPlan(): Promise<Map<string, Sight>> {
  return new Map((await PlanRow.findAll()).map((row) => [row.id, sightOfPlan(row)]));
}

/** What somebody may see, of sights that were asked for at once for many. */
export const sightAmong = (
  sights: ReadonlyMap<string, Sight>,
  { role, plan }: Pick<Account, "role" | "plan">,
): Sight => (role === "subscriber" ? (sights.get(plan) ?? NOTHING) : WHOLE);

/** Makes a plan, or changes one that is still as it was read. */
export async function savePlan(id: string | undefined, dto: PlanDto): Promise<Plan> {
  const { name, version, wait, open = false, price = "" } = dto;
  const parts = partsInOrder(dto.parts);
  const kinds = KIND_NAMES.filter((kind) => dto.kinds.includes(kind));
  try {
    if (id === undefined) {
      if ((await PlanRow.count()) >= MOST_PLANS)
        throw new Failure("many", `There are ${MOST_PLANS} plans already.`, { kept: "No plan was made." });
      const made = await PlanRow.create({ id: randomUUID(), name, parts, kinds, wait, open, price, version: 1 });
      await audit({ what: "plan made", subject: name, detail: { parts, kinds, wait } });
      return planOf(made);
    }
    const before = await findPlan(id);
    const changed = await transact(async (transaction) => {
      const row = await PlanRow.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE });
      if (row?.version !== version) return false;
      row.set({ name, parts, kinds, wait, open, price, version: version + 1 });
      await sealAnew(row, transaction);
      return true;
    });
    if (!changed)
      throw new Failure("stale", "Somebody else changed this plan meanwhile.", {
        status: 409,
        kept: "Nothing was changed.",
        remedy: "Look at it once more and change it again.",
      });
    await audit({ what: "plan changed", subject: name, detail: { before, after: { parts, kinds, wait } } });
    return findPlan(id);
  } catch (error) {
    if (!isDuplicate(error)) throw error;
    throw new Failure("taken", `There is a plan named ${name} already.`, {
      kept: "Nothing was changed.",
      fields: { name: "Another plan has this name." },
    });
  }
}

/** Puts a reader on a plan. */
export async function putOnPlan(accountId: string, planId: string): Promise<void> {
  const plan = await findPlan(planId);
  const account = accountId.length <= 36 ? await Account.findByPk(accountId) : null;
  if (!account) throw notFound("account");
  if (account.role !== "subscriber")
    throw new Failure("role", `${account.name} works at the desk and sees everything.`, {
      kept: "Nothing was changed.",
    });
  if (account.plan === plan.id) return;
  const before = account.plan;
  await account.update({ plan: plan.id });
  await audit({ what: "put on a plan", subject: `${account.email}, ${plan.name}`, detail: { before } });
}
