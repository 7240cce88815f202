import { expose } from "comlink";
import { followMark } from "#core/marks/follow";
import { problemsOf } from "#core/marks/check";
import { followedOn, kindOf } from "#core/marks/registry";
import type { Life, Mark, MarketFacts } from "#core/marks/kind";
import { fromBuffer, type Series } from "#core/series/series";
import { Calendar, type CalendarSpec } from "#core/time/calendar";
import { loadSince, reaches, type BarAddress, type LoadedSeries } from "../parts/barPages.ts";

export interface LivesRequest {
  marks: Mark[];
  market: MarketFacts;
  calendar: CalendarSpec;
  revision: number;
  /** A past instant after which nothing is seen. */
  asOf?: number | undefined;
  /** Bars on the screen of all hours, which need not be fetched again; how many come before them. */
  shown?: { rung: string; bars: Float64Array; start: number };
}

export type LivesAnswer = { id: string; life: Life; says: string; problems: string[] }[];

const MOST_KEPT = 24;
const kept = new Map<string, { revision: number; loaded: Promise<LoadedSeries> }>();

/** Bars of a rung from `since` on, all hours: what a mark lives through does not depend on what is looked at. */
async function barsSince(
  { market, rung, asOf }: Omit<BarAddress, "hours">,
  revision: number,
  since: number,
): Promise<Series> {
  const key = `${market} ${rung} ${asOf ?? ""}`;
  const known = kept.get(key);
  const before = await known?.loaded.catch(() => undefined);
  if (before && known?.revision === revision && reaches(before, since)) return before.series;
  const loaded = loadSince({ market, rung, hours: "all", asOf }, since, before);
  kept.set(key, { revision, loaded });
  // Each step through the past is bars of its own: only the last few are kept.
  for (const old of kept.keys()) {
    if (kept.size <= MOST_KEPT) break;
    kept.delete(old);
  }
  return (await loaded).series;
}

const worker = {
  /** The life of each mark over the bars of its own rung. */
  async follow({ marks, market, calendar: spec, revision, asOf, shown }: LivesRequest): Promise<LivesAnswer> {
    const calendar = new Calendar(spec);
    const onScreen = shown && fromBuffer(shown.bars);
    const answer: LivesAnswer = [];
    // One after the other: marks of one rung share what was loaded for the first.
    for (const mark of [...marks].sort((a, b) => sinceOf(a) - sinceOf(b))) {
      const held =
        onScreen && followedOn(mark) === shown.rung && reaches({ series: onScreen, start: shown.start }, sinceOf(mark));
      const series = held
        ? onScreen
        : await barsSince({ market: market.id, rung: followedOn(mark), asOf }, revision, sinceOf(mark));
      const context = { series, market, calendar };
      const life = followMark(mark, context);
      const kind = kindOf(mark);
      answer.push({
        id: mark.id,
        life,
        says: kind.say(mark, life, market),
        problems: problemsOf(mark, context).map(({ sentence }) => sentence),
      });
    }
    return answer;
  },
};

/** From when on a mark needs bars: its first anchor. */
function sinceOf({ anchors }: Mark): number {
  return Math.min(...anchors.map(({ time }) => time));
}

export type LivesWorker = typeof worker;
expose(worker);
