import type { SaveScenarioDto } from "#contracts/scenario";
import type { Scenario } from "#core/scenarios/scenario";
import { findMarket } from "../bars/markets.ts";
import { transact } from "../database/connection.ts";
import { ScenarioRow } from "../database/models.ts";
import { Failure } from "../failure.ts";
import { readClock } from "../feed/clock.ts";

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
export function saveScenario(marketId: string, { scenario, version, step, writtenAt: asked }: SaveScenarioDto, accountId: string): Promise<StoredScenario> {
  const plan = plainPlan(scenario);
  return transact(async (transaction) => {
    await findMarket(marketId, transaction);
    const row = await ScenarioRow.findByPk(plan.id, { transaction, lock: transaction.LOCK.UPDATE });
    if (row && row.marketId !== marketId) throw new Failure("scenario", "The scenario belongs to another market.", { status: 404 });
    if ((row?.version ?? 0) !== version)
      throw new Failure("stale", "Somebody else changed this scenario meanwhile.", {
        status: 409,
        kept: "Their version is stored; what you typed is still in the form.",
        remedy: "Open the scenario again to see theirs, then save yours.",
      });
    const removed = step === "remove";
    const writtenAt = row?.writtenAt ?? Math.min(asked ?? Infinity, (await readClock()).now);
    if (row) await row.update({ plan, version: version + 1, removed }, { transaction });
    else await ScenarioRow.create({ id: plan.id, marketId, accountId, plan, version: 1, removed, writtenAt }, { transaction });
    return { plan, version: version + 1, writtenAt, market: marketId };
  });
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
