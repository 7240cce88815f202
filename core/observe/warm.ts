import { asInstant, EVER, type Instant } from "#core/observe/instant";
import type { Need } from "#core/observe/tape";
import { bucketAt } from "#core/time/boundaries";
import type { Calendar } from "#core/time/calendar";
import { DAY } from "#core/time/dates";
import { parseTimeframe } from "#core/time/timeframe";

/** What hangs on all the bars there are. */
const HANG_ON_ALL: readonly Need["of"][] = ["structure", "patterns", "columns", "labels", "meter"];

/**
 * From when on bars must be told to somebody who is to go on at an instant, so that every rung it needs stands as if
 * all had been told: for closes from the opening of the bar before the one that is being made, or as many bars before
 * it as are looked back on; structure, patterns, averages and lines hang on all there is.
 */
export function warmFrom(needs: readonly Need[], through: Instant, calendar: Calendar): Instant {
  let from = through - 4 * DAY;
  for (const { rung = "", of, back = 1 } of needs) {
    if (HANG_ON_ALL.includes(of)) return EVER;
    const timeframe = parseTimeframe(rung);
    if (!timeframe || through === EVER) continue;
    const running = bucketAt(through, timeframe, calendar);
    let opened = Math.min(running.from, through);
    for (let n = 0; n < back; n++) opened = bucketAt(opened - 1, timeframe, calendar).from;
    from = Math.min(from, opened);
  }
  return asInstant(from);
}
