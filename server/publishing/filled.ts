import { Op } from "sequelize";
import { marketsIn, type Block } from "#core/edition/blocks";
import { asFollowUp } from "#core/scenarios/events";
import { followUpSentence } from "#core/scenarios/say";
import { DAY } from "#core/time/dates";
import { RANKS, type Written } from "#core/written/written";
import { listMarkets } from "../bars/markets.ts";
import { readClock } from "../clock.ts";
import { Edition, FollowUpRow, WatcherRow, type Draft } from "../database/models.ts";
import { eventsBetween } from "../events/events.ts";
import { frozenScenarios } from "../record/frozen.ts";
import { subjectOf } from "../record/subject.ts";
import { openStandings } from "../watch/standing.ts";
import { rewardOf } from "./reward.ts";
import { areaLines, countsLines } from "./atHand.ts";
import { recordSoFar } from "./recordSoFar.ts";
import type { BoardLine, CalendarLine, FrozenBlock, RankingLine, RecapLine } from "./content.ts";
import { viewOfMarket, type Section } from "./section.ts";

/** What the machine fills a block from. */
export interface Filling {
  /** The sections of the edition, and every market it speaks of. */
  sections: readonly Section[];
  markets: readonly string[];
  /** Whose draft it is. */
  accountId: string;
  now: number;
}

export type FilledBlock = Exclude<FrozenBlock, { kind: "words" | "market" | "walk" | "risk" | "question" }>;

/** Every block of a draft that the machine fills, by its id. */
export async function filledBlocks(
  { blocks, accountId }: Pick<Draft, "blocks" | "accountId">,
  sections: readonly Section[],
): Promise<Record<string, FilledBlock>> {
  const { now } = await readClock();
  const filling = { sections, markets: marketsIn(blocks), accountId, now };
  const filled = await Promise.all(blocks.map(async (block) => [block.id, await filledBlock(block, filling)] as const));
  return Object.fromEntries(filled.flatMap(([id, block]) => (block ? [[id, block]] : [])));
}

/** A block that the machine fills, from what stands now; `undefined` for the others. */
export async function filledBlock(block: Block, filling: Filling): Promise<FilledBlock | undefined> {
  switch (block.kind) {
    case "calendar":
      return { kind: "calendar", days: block.days, lines: await calendarLines(block.days, filling.now) };
    case "recap":
      return { kind: "recap", lines: await recapLines() };
    case "ranking":
      return { kind: "ranking", lines: rankingLines(filling.sections) };
    case "board":
      return { kind: "board", lines: await boardLines(filling.accountId) };
    case "counts":
      return { kind: "counts", lines: await countsLines(filling.markets) };
    case "areas":
      return { kind: "areas", lines: await areaLines(filling.markets, filling.accountId) };
    case "record":
      return { kind: "record", figures: await recordSoFar() };
    default:
      return undefined;
  }
}

/** Events from the beginning of the day (UTC) on. */
async function calendarLines(days: 1 | 7, now: number): Promise<CalendarLine[]> {
  const from = Math.floor(now / DAY) * DAY;
  const events = await eventsBetween(from, from + days * DAY);
  return events.map(({ at, allDay, title, impact }) => ({ at, allDay, title, impact }));
}

/** Calls that something happened to since the last edition, and those that are open; the latest edition first. */
async function recapLines(): Promise<RecapLine[]> {
  const last = await Edition.findOne({ order: [["number", "DESC"]], attributes: ["publishedAt"], raw: true });
  if (!last) return [];
  const rows = await FollowUpRow.findAll({
    where: { createdAt: { [Op.gt]: last.publishedAt } },
    order: [["sequence", "ASC"]],
  });
  const open = await openStandings();
  const keys = new Map(
    [...rows, ...open].map(({ edition, scenarioId }) => [subjectOf(edition, scenarioId), { edition, scenarioId }]),
  );
  const frozen = await frozenScenarios([...keys.values()].map(({ edition }) => edition));
  const watchers = await WatcherRow.findAll({
    where: { kind: "scenario", subject: [...keys.keys()] },
    attributes: ["subject", "marketId"],
    raw: true,
  });
  const markets = new Map((await listMarkets()).map((market) => [market.id, market]));
  const marketOf = new Map(watchers.map(({ subject, marketId }) => [subject, markets.get(marketId)]));
  const lines = [...keys].flatMap(([subject, { edition, scenarioId }]): RecapLine[] => {
    const market = marketOf.get(subject);
    const scenario = frozen.get(edition)?.get(scenarioId);
    if (!market || !scenario) return [];
    const own = rows.filter((row) => row.edition === edition && row.scenarioId === scenarioId);
    const stands = open.find((one) => one.edition === edition && one.scenarioId === scenarioId)?.says;
    return [
      {
        ...{ edition, title: scenario.title, market: market.name },
        since: own.map(({ event }) => followUpSentence(asFollowUp(event), market)),
        ...(stands === undefined ? {} : { stands }),
      },
    ];
  });
  const moved = (line: RecapLine) => (line.since.length > 0 ? 0 : 1);
  return lines.sort((a, b) => moved(a) - moved(b) || b.edition - a.edition || a.market.localeCompare(b.market));
}

/** By rank, then by weight, then by what they pay. */
function rankingLines(sections: readonly Section[]): RankingLine[] {
  const calls = new Map<string, RankingLine>();
  for (const section of sections)
    for (const scenario of section.scenarios) calls.set(scenario.id, rankingLine(scenario, section));
  return [...calls.values()].sort(
    (a, b) => RANKS.indexOf(a.rank) - RANKS.indexOf(b.rank) || b.weight - a.weight || (b.reward ?? 0) - (a.reward ?? 0),
  );
}

function rankingLine(scenario: Written, section: Section): RankingLine {
  const { title, rank, role, weight, terms } = scenario;
  const blended = rewardOf(scenario, section);
  const pays = blended !== undefined && Number.isFinite(blended) ? { reward: blended } : {};
  return { market: section.market.name, title, direction: terms.direction, rank, role, weight, ...pays };
}

/** The view by horizon of every market of the desk, as the analyst's own bearings and the machine have it. */
async function boardLines(accountId: string): Promise<BoardLine[]> {
  const lines = await Promise.all(
    (await listMarkets()).map(async (market): Promise<BoardLine> => {
      const views = await viewOfMarket(market, accountId);
      return { market: market.name, views: views.map(({ horizon, direction }) => ({ horizon, direction })) };
    }),
  );
  return lines.filter(({ views }) => views.length > 0);
}
