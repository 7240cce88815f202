import type { Hours } from "#core/series/hours";
import type { Market } from "../database/models.ts";
import { seriesOf } from "./series.ts";

export interface RungLine {
  rung: string;
  bars: number;
  /** The last closes, for a sketch in ink. */
  sketch: number[];
}

const SKETCHED = 40;

/** For each rung how many bars a market has on it and a sketch of the last ones; none where no base makes it. */
export function overviewOfRungs(market: Market, rungs: readonly string[], hours: Hours = "all"): Promise<RungLine[]> {
  return Promise.all(
    rungs.map(async (rung) => {
      const series = await seriesOf(market, rung, hours);
      return { rung, bars: series.length, sketch: [...series.close.slice(-SKETCHED)] };
    }),
  );
}
