import { setPriority } from "node:os";
import { worthOf, type RungWorth } from "#core/measure/worth";
import type { Series } from "#core/series/series";
import { Calendar, type CalendarSpec } from "#core/time/calendar";
import type { Timeframe } from "#core/time/timeframe";

export interface MeasureAsk {
  /** Closed bars only. */
  series: Series;
  timeframe: Timeframe;
  calendar: CalendarSpec;
  tick: number;
}

/** Nobody waits for it with a hand on the key: everything else on the machine goes first. */
const LOW = 10;

export function measureWorth({ series, timeframe, calendar, tick }: MeasureAsk): RungWorth | undefined {
  setPriority(LOW);
  return worthOf(series, timeframe, new Calendar(calendar), tick);
}
