import { DAY, mondayOf } from "#core/time/dates";
import { offsetAt } from "#core/time/zone";

/** Round prices (1, 2, 2.5, 5 x 10^n) with at least `apart` pixels between them. */
export function priceTicks(bottom: number, top: number, height: number, apart = 52): number[] {
  const least = ((top - bottom) * apart) / height;
  const power = 10 ** Math.floor(Math.log10(least));
  const step = ([1, 2, 2.5, 5, 10].find((factor) => factor * power >= least) ?? 10) * power;
  const out: number[] = [];
  for (let n = Math.ceil(bottom / step); n * step <= top; n++) out.push(n * step);
  return out;
}

export interface TimeTick {
  index: number;
  label: string;
  /** A boundary of the longer period, drawn heavier. */
  strong: boolean;
}

const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];

interface Step {
  /** Number that changes where a tick belongs. */
  key(civil: number): number;
  label(civil: number): string;
  /** The longer period a tick may also begin, with its own label. */
  over(civil: number): number;
  overLabel(civil: number): string;
}

const year = (civil: number) => new Date(civil).getUTCFullYear();
const month = (civil: number) => year(civil) * 12 + new Date(civil).getUTCMonth();
const day = (civil: number) => Math.floor(civil / DAY);
const dayLabel = (civil: number) => `${new Date(civil).getUTCDate()} ${MONTHS[new Date(civil).getUTCMonth()]}`;
const monthLabel = (civil: number) => MONTHS[new Date(civil).getUTCMonth()];
const yearLabel = (civil: number) => String(year(civil));
const clockLabel = (civil: number) => new Date(civil).toISOString().slice(11, 16);

const every = (minutes: number): Step => ({
  key: (civil) => Math.floor(civil / (minutes * 60_000)),
  label: clockLabel,
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

/** Where periods begin among the bars in view, at the finest step whose labels stay `apart` pixels from each other. */
export function timeTicks(timeAt: (index: number) => number, from: number, to: number, slot: number, zone: string, apart = 74): TimeTick[] {
  const first = Math.ceil(from);
  const last = Math.floor(to);
  const stride = Math.max(1, Math.floor((last - first) / 4000));
  const civil: number[] = [];
  for (let i = first - stride; i <= last; i += stride) {
    const time = timeAt(i);
    civil.push(time % DAY === 0 ? time : time + offsetAt(time, zone));
  }
  for (const step of STEPS) {
    const ticks: TimeTick[] = [];
    let previous = -Infinity;
    let crowded = 0;
    for (let n = 1; n < civil.length; n++) {
      if (step.key(civil[n]) === step.key(civil[n - 1])) continue;
      const index = first + (n - 1) * stride;
      const strong = step.over(civil[n]) !== step.over(civil[n - 1]);
      if ((index - previous) * slot < apart) {
        crowded++;
        if (!strong) continue;
        ticks.pop();
      }
      ticks.push({ index, label: strong ? step.overLabel(civil[n]) : step.label(civil[n]), strong });
      previous = index;
    }
    if (crowded <= ticks.length / 4) return ticks;
  }
  return [];
}
