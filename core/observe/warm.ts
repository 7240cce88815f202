import { asInstant, EVER, type Instant } from "#core/observe/instant";
import type { Need } from "#core/observe/tape";
import { bucketAt } from "#core/time/boundaries";
import type { Calendar } from "#core/time/calendar";
import { DAY } from "#core/time/dates";
import { parseTimeframe } from "#core/time/timeframe";

/**
 * From when on bars must be told to somebody who is to go on at an instant, so that every rung it needs stands as if
 * all had been told: for closes from the opening of the bar before the one that is being made; structure, averages and
 * lines hang on all there is.
 */
export function warmFrom(needs: readonly Need[], through: Instant, calendar: Calendar): Instant {
  let from = through - 4 * DAY;
  for (const { rung = "", of } of needs) {
    if (of === "structure" || of === "labels" || of === "meter") return EVER;
    const timeframe = parseTimeframe(rung);
    if (!timeframe || through === EVER) continue;
    const running = bucketAt(through, timeframe, calendar);
    from = Math.min(from, bucketAt(Math.min(running.from, through) - 1, timeframe, calendar).from);
  }
  return asInstant(from);
}
