import { expose } from "comlink";
import { followMark, followOn, type Followed } from "#core/marks/follow";
import { problemsOf } from "#core/marks/check";
import { followedOn, kindOf } from "#core/marks/registry";
import type { Life, Mark, MarkContext, MarketFacts } from "#core/marks/kind";
import { fromBuffer, type Series } from "#core/series/series";
import { Calendar, type CalendarSpec } from "#core/time/calendar";
import { loadSince, reaches, type BarAddress, type LoadedSeries } from "../parts/barPages.ts";

export interface LivesRequest {
  marks: Mark[];
  market: MarketFacts;
  calendar: CalendarSpec;
  revision: number;
  /** Changes when bars that had been closed were changed: what was followed before is of no use then. */
  history: number;
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

/** How far marks have been followed, by all that it hangs on; as many as a desk has. */
const followed = new Map<string, Followed>();
const MOST_FOLLOWED = 20_000;

/** The life of a mark over bars of the present: from where it had been followed, if only bars were added since. */
function grownLife(mark: Mark, context: MarkContext, history: number): Life {
  const key = `${context.market.id} ${history} ${JSON.stringify(mark)}`;
  const known = followed.get(key);
  // Earlier bars that were loaded meanwhile are before it; that the series reaches back to it must be sure.
  const before = known && context.series.length > 0 && context.series.time[0] <= known.time ? known : undefined;
  const { life, followed: now } = followOn(mark, context, before);
  followed.delete(key);
  if (now) followed.set(key, now);
  for (const old of followed.keys()) {
    if (followed.size <= MOST_FOLLOWED) break;
    followed.delete(old);
  }
  return life;
}

const worker = {
  /** The life of each mark over the bars of its own rung. */
  async follow({ marks, market, calendar: spec, revision, history, asOf, shown }: LivesRequest): Promise<LivesAnswer> {
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
      const life = asOf === undefined ? grownLife(mark, context, history) : followMark(mark, context);
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
