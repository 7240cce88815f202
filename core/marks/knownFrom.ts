import type { Mark } from "#core/marks/kind";
import { bornAt } from "#core/marks/registry";
import { asInstant, type Instant } from "#core/observe/instant";
import { closeOfBar } from "#core/series/resample";
import type { Calendar } from "#core/time/calendar";
import { parseTimeframe } from "#core/time/timeframe";

/**
 * The instant from which a mark, as it was said at `placed`, is known to somebody who looks back: not before it was
 * said, and not before the bar it was last anchored to had closed. A day's high that was marked at noon is known with
 * the day.
 */
export function knownFrom(mark: Mark, placed: number, calendar: Calendar): Instant {
  const rung = parseTimeframe(mark.rung);
  return asInstant(rung ? Math.max(placed, closeOfBar(bornAt(mark), rung, calendar)) : placed);
}
