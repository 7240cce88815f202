import { resample } from "#core/series/resample";
import { firstAtOrAfter, fromBars, slice, type Bar, type Series } from "#core/series/series";
import { ALL_HOURS, Calendar } from "#core/time/calendar";
import { seeded } from "#demo/random";
import { sized } from "../../../bench/size.ts";
import { readTimeframe } from "../../../server/bars/timeframes.ts";

export const MARKET = "mixed";
export const MINUTE = 60_000;
export const DAY = 1440 * MINUTE;
export const START = Date.UTC(2026, 0, 5);
const DAYS = sized(40, 4);
export const END = START + DAYS * DAY;
export const BASES = ["P1D", "PT1H", "PT1M"] as const;
export const calendar = new Calendar(ALL_HOURS);

/** Bars of one resolution that arrive together. */
export interface Arrival {
  base: (typeof BASES)[number];
  bars: Series;
}

/** Minutes of a price that wanders about 100; hours and days are made of them. */
function minutesOf(): Series {
  const random = seeded("arrivals of the trial");
  let price = 100;
  const cents = (value: number) => Math.round(value * 100) / 100;
  return fromBars(
    Array.from({ length: DAYS * 1440 }, (_, i): Bar => {
      const open = cents(price);
      price += 0.08 * random.normal() + (100 - price) * 0.002;
      const close = cents(price);
      const [high, low] = [Math.max(open, close) + 0.02, Math.min(open, close) - 0.02].map(cents);
      return { time: START + i * MINUTE, open, high, low, close, volume: 1 };
    }),
  );
}

/**
 * The same market in three resolutions, in pieces that arrive in random order: each from its beginning to its
 * end, but which comes next is drawn. The same at every call.
 */
export function arrivals(): Arrival[] {
  const random = seeded("order of the trial");
  const minutes = minutesOf();
  const pieces = BASES.map((base): Arrival[] => {
    const series = base === "PT1M" ? minutes : resample(minutes, readTimeframe("PT1M"), readTimeframe(base), calendar);
    const length = base === "P1D" ? DAY : base === "PT1H" ? DAY / 2 : DAY / 6;
    const out: Arrival[] = [];
    for (let from = START; from < END; from += length)
      out.push({ base, bars: slice(series, firstAtOrAfter(series, from), firstAtOrAfter(series, from + length)) });
    return out;
  });
  const next = pieces.map(() => 0);
  const out: Arrival[] = [];
  for (;;) {
    const left = pieces.flatMap((own, b) => (next[b] < own.length ? [b] : []));
    if (left.length === 0) return out;
    // None runs far ahead of the others: what is told first is then of all three.
    const share = (b: number) => next[b] / pieces[b].length;
    const behind = left.filter((b) => share(b) <= Math.min(...left.map(share)) + 0.06);
    const b = behind[Math.floor(random.next() * behind.length)];
    out.push(pieces[b][next[b]++]);
  }
}
