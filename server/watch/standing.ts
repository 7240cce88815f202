import { Op } from "sequelize";
import type { WholeState } from "#core/scenarios/legs";
import type { ScenarioState } from "#core/scenarios/run";
import { sayWholeStanding, sayWrong } from "#core/scenarios/sayTerms";
import { Market, WatcherRow } from "../database/models.ts";
import { isSealed } from "../database/sealing.ts";
import { frozenScenarios } from "../record/frozen.ts";
import { partsOf, subjectOf } from "../record/subject.ts";

/** Where a published scenario stands just now. */
export interface Standing {
  edition: number;
  scenarioId: string;
  title: string;
  market: string;
  phase: ScenarioState["phase"];
  says: string;
  /** The same without what would end it, and beyond which it is wrong. */
  stands: string;
  wrong?: string;
}

/** Where the scenarios of an edition stand. */
export async function standingsOf(edition: number): Promise<Standing[]> {
  return standingsFrom(
    await WatcherRow.findAll({ where: { kind: "scenario", subject: { [Op.startsWith]: subjectOf(edition, "") } } }),
  );
}

/** Published scenarios that are not over, of all markets or of some. */
export async function openStandings(markets?: readonly string[]): Promise<Standing[]> {
  return standingsFrom(
    await WatcherRow.findAll({
      where: { kind: "scenario", done: false, ...(markets ? { marketId: [...markets] } : {}) },
      order: [["subject", "ASC"]],
    }),
  );
}

/** Every published scenario on some markets, those that are over too; of one published twice the latest is last. */
export async function allStandings(markets: readonly string[]): Promise<Standing[]> {
  const rows = await WatcherRow.findAll({ where: { kind: "scenario", marketId: [...markets] } });
  return (await standingsFrom(rows)).sort((a, b) => a.edition - b.edition);
}

async function standingsFrom(rows: readonly WatcherRow[]): Promise<Standing[]> {
  // Where a call stands is told of rows the desk wrote; what else stands in one is named by a check of the record.
  const own = rows.filter(isSealed);
  const subjects = own.map(({ subject }) => partsOf(subject));
  const frozen = await frozenScenarios(subjects.map(({ edition }) => edition));
  const ids = [...new Set(own.map(({ marketId }) => marketId))];
  const markets = new Map((await Market.findAll({ where: { id: ids } })).map((market) => [market.id, market]));
  return own.flatMap((row, i): Standing[] => {
    const { edition, scenarioId } = subjects[i];
    const scenario = frozen.get(edition)?.get(scenarioId);
    const market = markets.get(row.marketId);
    if (!scenario || !market) return [];
    const state = row.state as WholeState;
    const says = sayWholeStanding(scenario.terms, state, market);
    const stands = sayWholeStanding(scenario.terms, state, market, false);
    const wrong = sayWrong(scenario.terms, state, market);
    return [
      {
        ...{ edition, scenarioId, title: scenario.title, market: row.marketId, phase: phaseOf(state), says, stands },
        ...(wrong === undefined ? {} : { wrong }),
      },
    ];
  });
}

const PHASES = ["open", "armed", "waiting", "done"] as const;

/** Of several legs the furthest that is still under way. */
function phaseOf(state: WholeState): ScenarioState["phase"] {
  if (!("legs" in state)) return state.phase;
  const phases = state.legs.map((leg) => ("state" in leg ? leg.state.phase : "waits" in leg ? "waiting" : "done"));
  return PHASES.find((phase) => phases.includes(phase)) ?? "done";
}
