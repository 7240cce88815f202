import { Op } from "sequelize";
import type { EditionKind } from "#core/edition/blocks";
import { eventSeen } from "#core/edition/eventParts";
import { canSee } from "#core/edition/parts";
import { asFollowUp } from "#core/scenarios/events";
import { followUpSentence } from "#core/scenarios/say";
import { wrongText } from "#core/scenarios/sayTerms";
import { listMarkets } from "../bars/markets.ts";
import { FollowUpRow, type Market } from "../database/models.ts";
import type { Sight } from "../accounts/plans.ts";
import { groupBy, resultOfCall } from "../publishing/recordSoFar.ts";
import { frozenScenarios, type FollowedScenario } from "../record/frozen.ts";
import { allStandings, type Standing } from "../watch/standing.ts";
import { editionsSeen } from "./seen.ts";

/** A call as a list of them tells it. */
export interface CallLine {
  edition: number;
  scenarioId: string;
  market: { id: string; name: string };
  title: string;
  kind: EditionKind;
  direction: "long" | "short";
  /** Beyond which it is wrong: a price, or in words where that comes with its steps. */
  wrong?: string;
  phase: Standing["phase"];
  /** When it lapses without an entry. */
  expires: number;
  /** Where it stands; missing where the plan does not show it. */
  says?: string;
  /** How it ended, once it is over; missing where the plan does not show it. */
  ended?: Ending;
}

/** How a call ended. */
export interface Ending {
  at: number;
  /** Its last event in a sentence, without a result: that of a leg is not the call's. */
  says: string;
  /** What it came to, in R, where it was entered. */
  r?: number;
  /** Whether a bar of it leaves open which way it went. */
  isAmbiguous: boolean;
}

/** Something that happened to a call. */
export interface ChangeLine {
  edition: number;
  market: { id: string; name: string };
  title: string;
  at: number;
  says: string;
}

/** Editions somebody may open now, with their kinds. */
async function openEditions(sight: Sight, now: number): Promise<Map<number, EditionKind>> {
  const seen = (await editionsSeen(sight, now)).filter(({ isOpen }) => isOpen);
  return new Map(seen.map(({ number, kind }) => [number, kind]));
}

/**
 * Every call somebody may see, of all markets or of one, those under way first and among them the furthest; each once,
 * as it was first called in an edition they may open.
 */
export async function callsSeen(sight: Sight, now: number, marketId?: string): Promise<CallLine[]> {
  if (!canSee("scenarios", sight.parts)) return [];
  const withOrders = canSee("scenarios+orders", sight.parts);
  const markets = new Map((await listMarkets()).map((market) => [market.id, market]));
  const open = await openEditions(sight, now);
  const standings = (await allStandings(marketId === undefined ? [...markets.keys()] : [marketId])).filter(
    ({ edition }) => open.has(edition),
  );
  const frozen = await frozenScenarios(standings.map(({ edition }) => edition));
  const endings = withOrders ? await endingsOf(standings, frozen, markets) : new Map<string, Ending>();
  return standings
    .flatMap((standing): CallLine[] => {
      const market = markets.get(standing.market);
      const scenario = frozen.get(standing.edition)?.get(standing.scenarioId);
      const kind = open.get(standing.edition);
      if (!market || !scenario || kind === undefined) return [];
      const ended = endings.get(`${standing.edition}/${standing.scenarioId}`);
      return [
        {
          ...callOf(standing, scenario, market),
          kind,
          ...(withOrders ? { says: standing.stands, wrong: standing.wrong } : {}),
          ...(ended ? { ended } : {}),
        },
      ];
    })
    .sort((a, b) => PHASES.indexOf(a.phase) - PHASES.indexOf(b.phase) || b.edition - a.edition);
}

const PHASES: readonly Standing["phase"][] = ["open", "armed", "waiting", "done"];

function callOf(
  standing: Standing,
  { terms, market: named }: FollowedScenario,
  market: Market,
): Omit<CallLine, "kind"> {
  const { edition, scenarioId, title, phase } = standing;
  return {
    ...{ edition, scenarioId, title, phase, direction: terms.direction, expires: terms.expires },
    market: named,
    ...(terms.wrong === undefined ? {} : { wrong: wrongText(terms, terms.wrong, market) }),
  };
}

/** How calls ended that are over, by edition and id. */
async function endingsOf(
  standings: readonly Standing[],
  frozen: Awaited<ReturnType<typeof frozenScenarios>>,
  markets: ReadonlyMap<string, Market>,
): Promise<Map<string, Ending>> {
  const over = standings.filter(({ phase }) => phase === "done");
  const rows = await FollowUpRow.findAll({
    where: { edition: [...new Set(over.map(({ edition }) => edition))] },
    order: [["sequence", "ASC"]],
  });
  const told = groupBy(rows, ({ edition, scenarioId }) => `${edition}/${scenarioId}`);
  return new Map(
    over.flatMap(({ edition, scenarioId, market }): [string, Ending][] => {
      const key = `${edition}/${scenarioId}`;
      const terms = frozen.get(edition)?.get(scenarioId)?.terms;
      const events = (told.get(key) ?? []).map(({ event }) => asFollowUp(event));
      const [last, named] = [events.at(-1), markets.get(market)];
      if (!terms || !last || !named) return [];
      const r = resultOfCall(terms, events);
      const isAmbiguous = events.some(({ ambiguous }) => ambiguous === true);
      const ending = { at: last.knownAt, says: followUpSentence({ ...last, r: undefined }, named), isAmbiguous };
      return [[key, { ...ending, ...(r === undefined ? {} : { r }) }]];
    }),
  );
}

/** What happened to the calls somebody may see, the latest first. */
export async function changesSeen(
  sight: Sight,
  now: number,
  { limit, market, from = 0 }: { limit: number; market?: string; from?: number },
): Promise<ChangeLine[]> {
  if (!canSee("scenarios", sight.parts)) return [];
  const open = await openEditions(sight, now);
  const markets = new Map((await listMarkets()).map((one) => [one.id, one]));
  const rows = await FollowUpRow.findAll({
    where: { edition: { [Op.in]: [...open.keys()] }, createdAt: { [Op.between]: [from, now] } },
    order: [
      ["createdAt", "DESC"],
      ["edition", "DESC"],
      ["sequence", "DESC"],
    ],
    // What a plan does not show, and what is of other markets, is left out below.
    ...(market === undefined ? { limit: limit * 4 } : {}),
  });
  const frozen = await frozenScenarios(rows.map(({ edition }) => edition));
  const lines = rows.flatMap(({ edition, scenarioId, event }): ChangeLine[] => {
    const scenario = frozen.get(edition)?.get(scenarioId);
    const own = scenario && markets.get(scenario.market.id);
    const told = eventSeen(asFollowUp(event), sight.parts);
    if (!own || !told || (market !== undefined && own.id !== market)) return [];
    const says = followUpSentence(told, own);
    return [{ edition, market: scenario.market, title: scenario.title, at: told.knownAt, says }];
  });
  return lines.slice(0, limit);
}
