import { DAY, mondayOf } from "#core/time/dates";

const FACTORS = [1, 2, 2.5, 5, 10];

/**
 * Round prices (1, 2, 2.5, 5 x 10^n) with at least `apart` pixels between them; on a log axis they thin out downwards.
 */
export function priceTicks(bottom: number, top: number, height: number, log = false, apart = 52): number[] {
  // Over less than a doubling a log axis is nearly even.
  if (log && bottom > 0 && top / bottom > 2) return logTicks(bottom, top, height, apart);
  const step = roundStep(((top - bottom) * apart) / height);
  const first = Math.ceil(bottom / step);
  const count = Math.floor(top / step) - first + 1;
  // Numbers so close that no round one lies between them, or so far from zero that a step is lost in them, have no
  // ticks.
  if (!(count > 0) || count > height || !Number.isSafeInteger(first)) return [];
  return Array.from({ length: count }, (_, i) => (first + i) * step);
}

function roundStep(least: number): number {
  const power = 10 ** Math.floor(Math.log10(least));
  return (FACTORS.find((factor) => factor * power >= least) ?? 10) * power;
}

/** From the bottom up, each at the next round price that is far enough from the last one. */
function logTicks(bottom: number, top: number, height: number, apart: number): number[] {
  const ratio = Math.exp((Math.log(top / bottom) * apart) / height);
  const out: number[] = [];
  for (let price = bottom; out.length < height;) {
    const step = roundStep(price * (ratio - 1));
    const next = Math.ceil((out.length === 0 ? bottom : price * ratio) / step - 1e-9) * step;
    if (!(next <= top)) break;
    out.push(next);
    price = next;
  }
  return out;
}

export interface TimeTick {
  index: number;
  label: string;
  /** A boundary of the longer period, drawn heavier. */
  strong: boolean;
}

const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];

/** An instant's clock, the day number of its trading date, and the month of that, counted from the year 0. */
interface Sample {
  clock: number;
  day: number;
  month: number;
}

interface Step {
  /** Number that changes where a tick belongs: of the clock for parts of a day, otherwise of the trading date. */
  key(at: Sample): number;
  label(at: Sample): string;
  /** The longer period a tick may also begin, with its own label. */
  over(at: Sample): number;
  overLabel(at: Sample): string;
}

const yearOf = ({ month }: Sample) => Math.floor(month / 12);
const monthName = ({ month }: Sample) => MONTHS[month % 12];
const dayLabel = (at: Sample) => `${new Date(at.day * DAY).getUTCDate()} ${monthName(at)}`;
const yearLabel = (at: Sample) => String(yearOf(at));

const every = (minutes: number): Step => ({
  key: ({ clock }) => Math.floor(clock / (minutes * 60_000)),
  label: ({ clock }) => new Date(clock).toISOString().slice(11, 16),
  over: ({ day }) => day,
  overLabel: dayLabel,
});
const months = (count: number): Step => ({
  key: ({ month }) => Math.floor(month / count),
  label: monthName,
  over: yearOf,
  overLabel: yearLabel,
});
const years = (count: number): Step => ({
  key: (at) => Math.floor(yearOf(at) / count),
  label: yearLabel,
  over: (at) => Math.floor(yearOf(at) / (count * 5)),
  overLabel: yearLabel,
});
const byMonth = { over: ({ month }: Sample) => month, overLabel: dayLabel, label: dayLabel };

const STEPS: Step[] = [
  ...[5, 15, 30, 60, 120, 240, 480].map(every),
  { key: ({ day }) => day, ...byMonth },
  { key: ({ day }) => mondayOf(day), ...byMonth },
  months(1),
  months(3),
  ...[1, 2, 5, 10].map(years),
];

/** The clock of a market at an instant, and the trading date it belongs to, both as if they were UTC. */
export interface MarketTime {
  clock: number;
  date: number;
}

/** Bars that are looked at for ticks: more than there can be pixels between two labels. */
const LOOKED_AT = 1500;

/** Where periods begin among the bars in view, at the finest step whose labels stay `apart` pixels from each other. */
export function timeTicks(
  timeAt: (index: number) => MarketTime,
  from: number,
  to: number,
  slot: number,
  apart = 74,
): TimeTick[] {
  const first = Math.ceil(from);
  const last = Math.floor(to);
  const stride = Math.max(1, Math.floor((last - first) / LOOKED_AT));
  const samples = samplesOf(timeAt, first - stride, last, stride);
  for (const step of STEPS) {
    const ticks: TimeTick[] = [];
    let previous = -Infinity;
    let crowded = 0;
    for (let n = 1; n < samples.length; n++) {
      const [before, at] = [samples[n - 1], samples[n]];
      const strong = step.over(at) !== step.over(before);
      if (!strong && step.key(at) === step.key(before)) continue;
      const index = first + (n - 1) * stride;
      if ((index - previous) * slot < apart) {
        crowded++;
        if (!strong) continue;
        ticks.pop();
      }
      ticks.push({ index, label: strong ? step.overLabel(at) : step.label(at), strong });
      previous = index;
    }
    if (crowded <= ticks.length / 4) return ticks;
  }
  return [];
}

/** Times of bars `first` to `last` with what the steps ask of them; a date is taken apart once for all its bars. */
function samplesOf(timeAt: (index: number) => MarketTime, first: number, last: number, stride: number): Sample[] {
  const out: Sample[] = [];
  let [day, month] = [NaN, 0];
  for (let i = first; i <= last; i += stride) {
    const { clock, date } = timeAt(i);
    const next = Math.floor(date / DAY);
    if (next !== day) {
      day = next;
      const parts = new Date(date);
      month = parts.getUTCFullYear() * 12 + parts.getUTCMonth();
    }
    out.push({ clock, day, month });
  }
  return out;
}
