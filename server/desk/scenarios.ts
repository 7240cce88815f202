import { Op } from "sequelize";
import type { SaveScenarioDto } from "#contracts/scenario";
import { writtenOf } from "#core/written/former";
import { readWrittenTerms } from "#core/written/readWritten";
import type { Written } from "#core/written/written";
import { findMarket } from "../bars/markets.ts";
import { audit } from "../audit/audit.ts";
import { transact } from "../database/connection.ts";
import { ScenarioRow, ScenarioStepRow } from "../database/models.ts";
import { Failure } from "../failure.ts";
import { momentOf } from "./moment.ts";

/** Scenarios of one market that stand. */
const MOST_SCENARIOS = 500;

export interface StoredScenario {
  scenario: Written;
  version: number;
  market: string;
  /** Market clock at which it was first saved. */
  writtenAt: number;
}

/** The scenarios of a market as they stood at a moment: each as it had last been saved by then. */
export async function scenariosAt(marketId: string, moment: number): Promise<StoredScenario[]> {
  const [steps, rows] = await Promise.all([
    ScenarioStepRow.findAll({ where: { marketId, marketTime: { [Op.lte]: moment } }, order: [["number", "ASC"]] }),
    ScenarioRow.findAll({ where: { marketId } }),
  ]);
  const last = new Map(steps.map((step) => [step.scenarioId, step]));
  return rows.flatMap(({ id, version, writtenAt }): StoredScenario[] => {
    const stood = last.get(id);
    return stood && !stood.removed
      ? [{ scenario: writtenOf(stood.scenario), version, writtenAt, market: marketId }]
      : [];
  });
}

export async function scenariosOf(marketId: string): Promise<StoredScenario[]> {
  const rows = await ScenarioRow.findAll({ where: { marketId, removed: false }, order: [["id", "ASC"]] });
  return rows.map(({ scenario, version, writtenAt }) => ({
    scenario: writtenOf(scenario),
    version,
    writtenAt,
    market: marketId,
  }));
}

/** Saves or removes a scenario; refuses when somebody else saved another version meanwhile. */
export function saveScenario(
  marketId: string,
  { scenario: said, version, step, writtenAt: asked }: SaveScenarioDto,
  accountId: string,
): Promise<StoredScenario> {
  const scenario = plainOf(said);
  return transact(async (transaction) => {
    const market = await findMarket(marketId, transaction);
    const row = await ScenarioRow.findByPk(scenario.id, { transaction, lock: transaction.LOCK.UPDATE });
    if (row && row.marketId !== marketId)
      throw new Failure("scenario", "The scenario belongs to another market.", { status: 404 });
    if ((row?.version ?? 0) !== version)
      throw new Failure("stale", "Somebody else changed this scenario meanwhile.", {
        status: 409,
        kept: "Their version is stored; what you typed is still in the form.",
        remedy: "Open the scenario again to see theirs, then save yours.",
      });
    const removed = step === "remove";
    const marketTime = await momentOf(market.id, asked);
    const writtenAt = Math.min(row?.writtenAt ?? marketTime, marketTime);
    if (row && row.accountId !== accountId)
      await audit({
        what: "scenario changed",
        subject: `${row.scenario.title} on ${market.name}`,
        detail: { of: row.accountId, removed, before: row.scenario },
      });
    if (!row && (await ScenarioRow.count({ where: { marketId, removed: false }, transaction })) >= MOST_SCENARIOS)
      throw new Failure("many", `${market.name} has ${MOST_SCENARIOS} scenarios already.`, {
        kept: "Nothing was saved.",
        remedy: "Remove some that are no longer wanted.",
      });
    await ScenarioStepRow.create({ scenarioId: scenario.id, marketId, scenario, removed, marketTime }, { transaction });
    if (row) await row.update({ scenario, version: version + 1, removed, writtenAt }, { transaction });
    else
      await ScenarioRow.create(
        { id: scenario.id, marketId, accountId, scenario, version: 1, removed, writtenAt },
        { transaction },
      );
    return { scenario, version: version + 1, writtenAt, market: marketId };
  });
}

/** Class instances of the border become plain data. */
function plainOf({ terms, restsOn, pair, ...dto }: SaveScenarioDto["scenario"]): Written {
  return {
    format: 2,
    id: dto.id,
    title: dto.title,
    premise: dto.premise,
    rank: dto.rank,
    role: dto.role,
    weight: dto.weight,
    terms: readWrittenTerms(terms),
    waived: { ...dto.waived },
    ...(restsOn ? { restsOn } : {}),
    ...(pair ? { pair } : {}),
  };
}
