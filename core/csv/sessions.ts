import type { Series } from "#core/series/series";
import type { SessionRule } from "#core/time/calendar";
import { DAY, dayNumber, MINUTE, weekday } from "#core/time/dates";
import { isIntraday, nominalLength, type Timeframe } from "#core/time/timeframe";
import { offsetAt } from "#core/time/zone";

/** Minutes that hours are told apart by. */
const GRAIN = 5;
const DAY_BINS = 1440 / GRAIN;
const WEEK_BINS = 7 * DAY_BINS;
/**
 * Share of the busiest weekday's, or hour's, weeks in which a weekday, or an hour, must have bars to be one of trade.
 */
const USUAL = 0.15;
/** Holes shorter than this are minutes without trade, not a closed market. */
const SHORTEST_PAUSE = 60 / GRAIN;
/** Of fewer weeks nothing is concluded. */
const FEWEST_WEEKS = 3;

/**
 * The sessions a file's bars show, in a zone: of daily bars their weekdays, of intraday bars the hours, too. None where
 * there are too few weeks, or bars at all hours of all days. Holidays cannot be told from missing bars. O(n).
 */
export function sessionsOf(series: Series, base: Timeframe, zone: string): SessionRule[] | undefined {
  if (!isIntraday(base) && (base.unit !== "day" || base.count !== 1)) return undefined;
  const week = isIntraday(base) ? hoursOf(series, nominalLength(base), zone) : weekdaysOf(series);
  if (!week || week.every((open) => open)) return undefined;
  return grouped(runsOf(week));
}

/** For each five minutes of the week whether the market trades then, by the weeks that have bars there. */
function hoursOf({ time, length }: Series, bar: number, zone: string): boolean[] | undefined {
  const counts = new Int32Array(WEEK_BINS);
  const lastWeek = new Int32Array(WEEK_BINS).fill(-1e6);
  const weeks = new Set<number>();
  for (let i = 0; i < length; i++) {
    const civil = time[i] + offsetAt(time[i], zone);
    const week = Math.floor((dayNumber(civil) + 3) / 7);
    weeks.add(week);
    const first = Math.floor((civil - (week * 7 - 3) * DAY) / (GRAIN * MINUTE));
    const bins = Math.max(1, Math.round(bar / (GRAIN * MINUTE)));
    for (let n = 0; n < bins; n++) {
      const bin = (first + n) % WEEK_BINS;
      if (lastWeek[bin] === week) continue;
      lastWeek[bin] = week;
      counts[bin]++;
    }
  }
  if (weeks.size < FEWEST_WEEKS) return undefined;
  const most = counts.reduce((a, b) => Math.max(a, b), 0);
  return withoutShortHoles(Array.from(counts, (count) => count >= USUAL * most));
}

function withoutShortHoles(open: boolean[]): boolean[] {
  const begin = open.indexOf(true);
  if (begin < 0) return open;
  const out = [...open];
  let hole = 0;
  for (let n = 0; n <= WEEK_BINS; n++) {
    const bin = (begin + n) % WEEK_BINS;
    if (!open[bin]) hole++;
    else {
      if (hole < SHORTEST_PAUSE) for (let k = 1; k <= hole; k++) out[(bin - k + WEEK_BINS) % WEEK_BINS] = true;
      hole = 0;
    }
  }
  return out;
}

function weekdaysOf({ time, length }: Series): boolean[] | undefined {
  const counts = new Int32Array(7);
  const weeks = new Set<number>();
  for (let i = 0; i < length; i++) {
    const day = dayNumber(time[i]);
    counts[weekday(day) - 1]++;
    weeks.add(Math.floor((day + 3) / 7));
  }
  if (weeks.size < FEWEST_WEEKS) return undefined;
  const most = Math.max(...counts);
  return Array.from({ length: WEEK_BINS }, (_, bin) => counts[Math.floor(bin / DAY_BINS)] >= USUAL * most);
}

interface Run {
  from: number;
  to: number;
}

/** Stretches of the week without a pause, cut into days: at the clock they open at where they last longer than one. */
function runsOf(week: readonly boolean[]): Run[] {
  const begin = week.findIndex((open, bin) => open && !week[(bin - 1 + WEEK_BINS) % WEEK_BINS]);
  const out: Run[] = [];
  let from: number | undefined;
  for (let n = 0; n <= WEEK_BINS; n++) {
    const isOpen = n < WEEK_BINS && week[(begin + n) % WEEK_BINS];
    if (isOpen) from ??= n;
    else if (from !== undefined) {
      for (let start = from; start < n; start += DAY_BINS)
        out.push({ from: begin + start, to: begin + Math.min(n, start + DAY_BINS) });
      from = undefined;
    }
  }
  return out;
}

/** Runs as rules: a run belongs to the date it ends on, and those of one clock are one rule. */
function grouped(runs: readonly Run[]): SessionRule[] {
  const rules = new Map<string, SessionRule>();
  for (const { from, to } of runs) {
    const [opens, closes] = [Math.floor(from / DAY_BINS), Math.floor((to - 1) / DAY_BINS)];
    const opensDayBefore = closes > opens;
    const [open, close] = [clockOf(from - opens * DAY_BINS), clockOf(to - closes * DAY_BINS)];
    const key = `${open} ${close} ${opensDayBefore}`;
    const rule = rules.get(key) ?? { days: [], open, close, ...(opensDayBefore ? { opensDayBefore } : {}) };
    rule.days = [...rule.days, (closes % 7) + 1].sort((a, b) => a - b);
    rules.set(key, rule);
  }
  return [...rules.values()];
}

function clockOf(bins: number): string {
  const minutes = bins * GRAIN;
  return `${String(Math.floor(minutes / 60)).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`;
}

const DAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

/** "Mon to Fri 09:30 to 16:00"; a session that opens the day before says so. */
export function sessionsText(rules: readonly SessionRule[]): string {
  return rules
    .map(({ days, open, close, opensDayBefore }) => {
      const isRow = days.length > 2 && days.every((day, i) => i === 0 || day === days[i - 1] + 1);
      const names = days.map((day) => DAYS[day - 1]);
      const when = isRow ? `${names[0]} to ${names[names.length - 1]}` : names.join(", ");
      const allDay = open === "00:00" && close === "24:00";
      return allDay ? when : `${when} ${open}${opensDayBefore ? " the day before" : ""} to ${close}`;
    })
    .join("; ");
}
