import type { Calendar } from "#core/time/calendar";
import { dayNumber } from "#core/time/dates";
import { isIntraday, type Timeframe } from "#core/time/timeframe";

/**
 * How a bar follows the one before it: without a pause, after the market was closed, or after at least a whole day
 * without trade.
 */
export type Pause = "open" | "closed" | "days";

/**
 * Answers for bars of a day and shorter; longer ones always follow without a pause. Bars may be added meanwhile. Days
 * are looked up where one ends, and kept: O(1) a bar asked for in order.
 */
export function pausesOf(
  track: { readonly time: Float64Array },
  timeframe: Timeframe,
  calendar: Calendar,
): (i: number) => Pause {
  if (!isIntraday(timeframe)) {
    if (timeframe.unit !== "day" || timeframe.count !== 1) return () => "open";
    return (i) => (i > 0 ? pauseBetween(dayNumber(track.time[i - 1]), dayNumber(track.time[i]), calendar) : "open");
  }
  // The trading date that the last bar asked about belongs to: [from, until) in ms.
  let [date, from, until] = [NaN, Infinity, -Infinity];
  const look = (time: number) => {
    if (time >= from && time < until) return;
    date = calendar.tradingDate(time);
    from = calendar.open(date) ?? time;
    until = calendar.close(date);
  };
  return (i) => {
    if (i === 0) return "open";
    const [before, now] = [track.time[i - 1], track.time[i]];
    look(before);
    if (now < until) return "open";
    const last = date;
    look(now);
    return pauseBetween(last, date, calendar);
  };
}

function pauseBetween(before: number, date: number, calendar: Calendar): Pause {
  if (date > before + 1) return "days";
  return (calendar.open(date) ?? 0) > calendar.close(before) ? "closed" : "open";
}
