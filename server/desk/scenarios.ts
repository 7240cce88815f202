import type { SaveScenarioDto } from "#contracts/scenario";
import type { Scenario } from "#core/scenarios/scenario";
import { holdingsOf } from "../bars/layers.ts";
import { findMarket, legsOf } from "../bars/markets.ts";
import { audit } from "../audit/audit.ts";
import { transact } from "../database/connection.ts";
import { ScenarioRow, type Market } from "../database/models.ts";
import { Failure } from "../failure.ts";
import { readClock } from "../clock.ts";

/** Scenarios of one market that stand. */
const MOST_SCENARIOS = 500;

export interface StoredScenario {
  plan: Scenario;
  version: number;
  market: string;
  /** Market clock at which it was first saved. */
  writtenAt: number;
}

export async function scenariosOf(marketId: string): Promise<StoredScenario[]> {
  const rows = await ScenarioRow.findAll({ where: { marketId, removed: false }, order: [["id", "ASC"]] });
  return rows.map(({ plan, version, writtenAt }) => ({ plan, version, writtenAt, market: marketId }));
}

/** Saves or removes a plan; refuses when somebody else saved another version meanwhile. */
export function saveScenario(
  marketId: string,
  { scenario, version, step, writtenAt: asked }: SaveScenarioDto,
  accountId: string,
): Promise<StoredScenario> {
  const plan = plainPlan(scenario);
  return transact(async (transaction) => {
    const market = await findMarket(marketId, transaction);
    const row = await ScenarioRow.findByPk(plan.id, { transaction, lock: transaction.LOCK.UPDATE });
    if (row && row.marketId !== marketId)
      throw new Failure("scenario", "The scenario belongs to another market.", { status: 404 });
    if ((row?.version ?? 0) !== version)
      throw new Failure("stale", "Somebody else changed this scenario meanwhile.", {
        status: 409,
        kept: "Their version is stored; what you typed is still in the form.",
        remedy: "Open the scenario again to see theirs, then save yours.",
      });
    const removed = step === "remove";
    const writtenAt = row?.writtenAt ?? (await momentOf(market, asked));
    if (row && row.accountId !== accountId)
      await audit({
        what: "scenario changed",
        subject: `${row.plan.title} on ${market.name}`,
        detail: { of: row.accountId, removed, before: row.plan },
      });
    if (!row && (await ScenarioRow.count({ where: { marketId, removed: false }, transaction })) >= MOST_SCENARIOS)
      throw new Failure("many", `${market.name} has ${MOST_SCENARIOS} scenarios already.`, {
        kept: "Nothing was saved.",
        remedy: "Remove some that are no longer wanted.",
      });
    if (row) await row.update({ plan, version: version + 1, removed }, { transaction });
    else
      await ScenarioRow.create(
        { id: plan.id, marketId, accountId, plan, version: 1, removed, writtenAt },
        { transaction },
      );
    return { plan, version: version + 1, writtenAt, market: marketId };
  });
}

/**
 * The moment a new plan counts as written at: now, or the past one the desk stands at, which is one the market has bars
 * of.
 */
async function momentOf(market: Market, asked: number | undefined): Promise<number> {
  const { now } = await readClock();
  if (asked === undefined || asked >= now) return now;
  if (asked < (await firstBarOf(market)))
    throw new Failure("moment", "The desk cannot stand at a moment before the market's first bar.", {
      kept: "Nothing was saved.",
      status: 400,
    });
  return asked;
}

/**
 * Time of the first bar of a market or, for one made of others, the first that all of them can have; Infinity without
 * any.
 */
async function firstBarOf(market: Market): Promise<number> {
  if (market.formula) return Math.max(...(await Promise.all((await legsOf(market)).map(firstBarOf))));
  return Math.min(Infinity, ...(await holdingsOf(market.id)).map(({ from }) => from));
}

/** Class instances of the border become plain data; the shares are made to sum to one. */
function plainPlan(dto: SaveScenarioDto["scenario"]): Scenario {
  const total = dto.targets.reduce((sum, { share }) => sum + share, 0);
  return {
    id: dto.id,
    title: dto.title,
    premise: dto.premise,
    direction: dto.direction,
    trigger: { ...dto.trigger },
    entry: { ...dto.entry },
    stop: dto.stop,
    targets: dto.targets.map(({ price, share }) => ({ price, share: share / total })),
    invalidation: dto.invalidation,
    expiry: dto.expiry,
    ...(dto.restsOn ? { restsOn: dto.restsOn } : {}),
  };
}
