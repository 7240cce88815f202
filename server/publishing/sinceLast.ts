import { marketsOf, type Block } from "#core/edition/blocks";
import { changesOf, type Changes } from "#core/edition/changes";
import { levelsOf } from "#core/marks/levels";
import { sayEvent } from "#core/marks/sayEvent";
import { followedOn } from "#core/marks/registry";
import { followUpSentence } from "#core/scenarios/say";
import { closeOfBar } from "#core/series/resample";
import { calendarOf, factsOf, findMarket } from "../bars/markets.ts";
import { seriesOf } from "../bars/series.ts";
import { readTimeframe } from "../bars/timeframes.ts";
import { livesOf } from "../desk/lives.ts";
import { marksOf } from "../desk/marks.ts";
import { standingsOf } from "../watch/standing.ts";
import { ofCalls } from "./calls.ts";
import { findEdition, followUpsOf } from "./editions.ts";
import { lastSaid, type Said } from "./lastSaid.ts";
import { publicPart, type Section } from "./section.ts";

/** Something that was said and has ended: what, how, and when that was known. */
export interface Ended {
  what: string;
  how: string;
  at: number;
}

/** What a draft says of a market against the edition that last had it. */
export interface SinceLast extends Changes {
  /** Calls of that edition that are over, and counts that died since it was published; the latest last. */
  ended: Ended[];
}

/** The same for every market's block of a draft, by its id; of a market that was never written of there is none. */
export async function sinceLast(
  blocks: readonly Block[],
  sections: readonly Section[],
): Promise<Record<string, SinceLast>> {
  const own = marketsOf(blocks);
  const said = await lastSaid([...new Set(own.map(({ market }) => market))]);
  const told = await Promise.all(
    own.map(async ({ id, market }, i): Promise<[string, SinceLast][]> => {
      const [before, section] = [said.get(market), sections.at(i)];
      if (!before || !section) return [];
      const live = levelsOf(section.marks, section.bars.at(-1)?.close ?? NaN);
      const changes = changesOf(before, publicPart(section), live, section.market);
      return [[id, { ...changes, ended: await endedSince(market, before) }]];
    }),
  );
  return Object.fromEntries(told.flat());
}

async function endedSince(marketId: string, before: Said): Promise<Ended[]> {
  const [calls, counts] = [await endedCalls(marketId, before), await deadCounts(marketId, before.edition)];
  return [...calls, ...counts].sort((a, b) => a.at - b.at);
}

async function endedCalls(marketId: string, { edition, scenarios }: Said): Promise<Ended[]> {
  const followed = new Map(scenarios.map(({ id, calledIn }) => [id, calledIn ?? edition]));
  const over = (await ofCalls(followed, standingsOf)).filter(({ phase }) => phase === "done");
  if (over.length === 0) return [];
  const [market, followUps] = [factsOf(await findMarket(marketId)), await ofCalls(followed, followUpsOf)];
  return scenarios.flatMap(({ id, title }): Ended[] => {
    if (!over.some(({ scenarioId }) => scenarioId === id)) return [];
    const last = followUps.findLast(({ scenarioId }) => scenarioId === id)?.event;
    return last ? [{ what: title, how: followUpSentence(last, market), at: last.knownAt }] : [];
  });
}

async function deadCounts(marketId: string, edition: number): Promise<Ended[]> {
  const since = Date.parse((await findEdition(String(edition))).content.marketTime);
  const market = await findMarket(marketId);
  const calendar = calendarOf(market);
  const counts = (await marksOf(marketId)).filter(({ kind, hidden }) => kind === "count" && !hidden);
  const lived = await livesOf(counts, (rung) => seriesOf(market, rung), factsOf(market), calendar);
  return lived.flatMap(({ mark, life, says }): Ended[] => {
    const end = life.dead ? life.events.at(-1) : undefined;
    if (!end) return [];
    const at = closeOfBar(end.time, readTimeframe(followedOn(mark)), calendar);
    return at > since ? [{ what: says, how: sayEvent(mark, end), at }] : [];
  });
}
