import { DAY, mondayOf } from "#core/time/dates";

const FACTORS = [1, 2, 2.5, 5, 10];

/** Round prices (1, 2, 2.5, 5 x 10^n) with at least `apart` pixels between them; on a log axis they thin out downwards. */
export function priceTicks(bottom: number, top: number, height: number, log = false, apart = 52): number[] {
  // Over less than a doubling a log axis is nearly even.
  if (log && bottom > 0 && top / bottom > 2) return logTicks(bottom, top, height, apart);
  const step = roundStep(((top - bottom) * apart) / height);
  const out: number[] = [];
  for (let n = Math.ceil(bottom / step); n * step <= top; n++) out.push(n * step);
  return out;
}

function roundStep(least: number): number {
  const power = 10 ** Math.floor(Math.log10(least));
  return (FACTORS.find((factor) => factor * power >= least) ?? 10) * power;
}

/** From the bottom up, each at the next round price that is far enough from the last one. */
function logTicks(bottom: number, top: number, height: number, apart: number): number[] {
  const ratio = Math.exp((Math.log(top / bottom) * apart) / height);
  const out: number[] = [];
  for (let price = bottom; ; ) {
    const step = roundStep(price * (ratio - 1));
    const next = Math.ceil((out.length === 0 ? bottom : price * ratio) / step - 1e-9) * step;
    if (next > top) return out;
    out.push(next);
    price = next;
  }
}

export interface TimeTick {
  index: number;
  label: string;
  /** A boundary of the longer period, drawn heavier. */
  strong: boolean;
}

const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];

interface Step {
  /** Number that changes where a tick belongs: of the clock for parts of a day, otherwise of the trading date. */
  key(date: number, clock: number): number;
  label(date: number, clock: number): string;
  /** The longer period a tick may also begin, with its own label. */
  over(date: number): number;
  overLabel(date: number): string;
}

const year = (civil: number) => new Date(civil).getUTCFullYear();
const month = (civil: number) => year(civil) * 12 + new Date(civil).getUTCMonth();
const day = (civil: number) => Math.floor(civil / DAY);
const dayLabel = (civil: number) => `${new Date(civil).getUTCDate()} ${MONTHS[new Date(civil).getUTCMonth()]}`;
const monthLabel = (civil: number) => MONTHS[new Date(civil).getUTCMonth()];
const yearLabel = (civil: number) => String(year(civil));
const clockLabel = (civil: number) => new Date(civil).toISOString().slice(11, 16);

const every = (minutes: number): Step => ({
  key: (_date, clock) => Math.floor(clock / (minutes * 60_000)),
  label: (_date, clock) => clockLabel(clock),
  over: day,
  overLabel: dayLabel,
});
const years = (count: number): Step => ({
  key: (civil) => Math.floor(year(civil) / count),
  label: yearLabel,
  over: (civil) => Math.floor(year(civil) / (count * 5)),
  overLabel: yearLabel,
});
const months = (count: number): Step => ({
  key: (civil) => Math.floor(month(civil) / count),
  label: monthLabel,
  over: year,
  overLabel: yearLabel,
});

const STEPS: Step[] = [
  ...[5, 15, 30, 60, 120, 240, 480].map(every),
  { key: day, label: dayLabel, over: month, overLabel: dayLabel },
  { key: (civil) => mondayOf(day(civil)), label: dayLabel, over: month, overLabel: dayLabel },
  months(1),
  months(3),
  years(1),
  years(2),
  years(5),
  years(10),
];

/** The clock of a market at an instant, and the trading date it belongs to, both as if they were UTC. */
export interface MarketTime {
  clock: number;
  date: number;
}

/** Where periods begin among the bars in view, at the finest step whose labels stay `apart` pixels from each other. */
export function timeTicks(timeAt: (index: number) => MarketTime, from: number, to: number, slot: number, apart = 74): TimeTick[] {
  const first = Math.ceil(from);
  const last = Math.floor(to);
  const stride = Math.max(1, Math.floor((last - first) / 4000));
  const times: MarketTime[] = [];
  for (let i = first - stride; i <= last; i += stride) times.push(timeAt(i));
  for (const step of STEPS) {
    const ticks: TimeTick[] = [];
    let previous = -Infinity;
    let crowded = 0;
    for (let n = 1; n < times.length; n++) {
      const { date, clock } = times[n];
      const before = times[n - 1];
      const strong = step.over(date) !== step.over(before.date);
      if (!strong && step.key(date, clock) === step.key(before.date, before.clock)) continue;
      const index = first + (n - 1) * stride;
      if ((index - previous) * slot < apart) {
        crowded++;
        if (!strong) continue;
        ticks.pop();
      }
      ticks.push({ index, label: strong ? step.overLabel(date) : step.label(date, clock), strong });
      previous = index;
    }
    if (crowded <= ticks.length / 4) return ticks;
  }
  return [];
}
