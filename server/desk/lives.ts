import { followMark } from "#core/marks/follow";
import type { Life, Mark, MarketFacts } from "#core/marks/kind";
import { followedOn, kindOf } from "#core/marks/registry";
import type { Series } from "#core/series/series";
import type { Calendar } from "#core/time/calendar";

/** A mark, its life, and what it says of itself. */
export interface SaidMark {
  mark: Mark;
  life: Life;
  says: string;
}

/** Every mark with its life over the bars of the rung it is followed on. */
export async function livesOf(
  marks: readonly Mark[],
  series: (rung: string) => Promise<Series>,
  market: MarketFacts,
  calendar: Calendar,
): Promise<SaidMark[]> {
  return Promise.all(
    marks.map(async (mark) => {
      const life = followMark(mark, { series: await series(followedOn(mark)), market, calendar });
      return { mark, life, says: kindOf(mark).say(mark, life, market) };
    }),
  );
}
