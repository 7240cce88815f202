import { closedBars } from "#core/observe/closedBars";
import type { ClosedBar } from "#core/observe/closedBar";
import { asInstant, type Instant } from "#core/observe/instant";
import { Tape, type Moment, type Need } from "#core/observe/tape";
import type { Layer } from "#core/series/layers";
import { fromBars, type Series } from "#core/series/series";
import { ALL_HOURS, Calendar } from "#core/time/calendar";
import { parseTimeframe } from "#core/time/timeframe";

export const allHours = new Calendar(ALL_HOURS);

/** A layer of a resolution. */
export function layer(base: string, series: Series): Layer {
  const timeframe = parseTimeframe(base);
  if (!timeframe) throw new Error(`${base} is no timeframe.`);
  return { base: timeframe, series };
}

/** Bars by hand: [time, open, high, low, close]. */
export function rows(...bars: [number, number, number, number, number][]): Series {
  return fromBars(bars.map(([time, open, high, low, close]) => ({ time, open, high, low, close, volume: 1 })));
}

export function toldOf(layers: readonly Layer[], calendar = allHours, after?: number, until?: number): ClosedBar[] {
  const instant = (time: number | undefined): Instant | undefined => (time === undefined ? undefined : asInstant(time));
  return [...closedBars(layers, calendar, instant(after), instant(until))];
}

/** All that the layers tell, as moments. */
export function momentsOf(
  layers: readonly Layer[],
  needs: readonly Need[],
  calendar = allHours,
  tick = 0.01,
  k = 3,
): Moment[] {
  const tape = new Tape({ calendar, tick, k }, needs);
  return toldOf(layers, calendar).map((told) => tape.next(told));
}
