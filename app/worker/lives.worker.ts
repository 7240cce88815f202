import { expose } from "comlink";
import { followMark } from "#core/marks/follow";
import { kindOf } from "#core/marks/registry";
import type { Life, Mark, MarketFacts } from "#core/marks/kind";
import { fromBuffer, type Series } from "#core/series/series";
import { Calendar, type CalendarSpec } from "#core/time/calendar";

export interface LivesRequest {
  marks: Mark[];
  market: MarketFacts;
  calendar: CalendarSpec;
  revision: number;
  /** Bars of the rung on the screen, which need not be fetched again. */
  rung: string;
  bars: Float64Array;
}

export type LivesAnswer = { id: string; life: Life; says: string; problems: string[] }[];

const kept = new Map<string, { revision: number; series: Promise<Series> }>();

/** Bars of another rung than the one on the screen. */
function barsOf(market: string, rung: string, revision: number): Promise<Series> {
  const key = `${market} ${rung}`;
  const known = kept.get(key);
  if (known?.revision === revision) return known.series;
  const series = fetch(`/bars/${market}/${rung}?revision=${revision}`)
    .then((response) => response.arrayBuffer())
    .then((buffer) => fromBuffer(new Float64Array(buffer)));
  kept.set(key, { revision, series });
  return series;
}

const worker = {
  /** The life of each mark over the bars of its own rung. */
  async follow({ marks, market, calendar: spec, revision, rung, bars }: LivesRequest): Promise<LivesAnswer> {
    const calendar = new Calendar(spec);
    const shown = fromBuffer(bars);
    return Promise.all(
      marks.map(async (mark) => {
        const series = mark.rung === rung ? shown : await barsOf(market.id, mark.rung, revision);
        const context = { series, market, calendar };
        const life = followMark(mark, context);
        const kind = kindOf(mark);
        return { id: mark.id, life, says: kind.say(mark, life, market), problems: kind.check(mark, context).map(({ sentence }) => sentence) };
      }),
    );
  },
};

export type LivesWorker = typeof worker;
expose(worker);
