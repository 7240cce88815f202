import type { Hours } from "#core/series/hours";
import type { Market } from "../database/models.ts";
import { seriesAsOf, seriesOf } from "./series.ts";

export interface RungSketch {
  rung: string;
  bars: number;
  /** The last closes, for a sketch in ink. */
  sketch: number[];
}

const SKETCHED = 40;

/** For each rung how many bars a market has on it and a sketch of the last ones; none where no base makes it. */
export async function sketchesOf(
  market: Market,
  rungs: readonly string[],
  hours: Hours = "all",
  asOf?: number,
): Promise<RungSketch[]> {
  const out: RungSketch[] = [];
  for (const rung of rungs) {
    const series =
      asOf === undefined ? await seriesOf(market, rung, hours) : await seriesAsOf(market, rung, hours, asOf);
    out.push({ rung, bars: series.length, sketch: [...series.close.slice(-SKETCHED)] });
    // Others are served between two rungs of a market with many bars.
    await new Promise((done) => setImmediate(done));
  }
  return out;
}
