import type { Series } from "#core/series/series";

/** Candles that say something where they stand, and nothing anywhere else; in the order they are told in. */
export const CANDLES = ["engulfing", "pin", "inside", "outside", "indecision", "star", "three", "shaven"] as const;
export type CandleName = (typeof CANDLES)[number];
export type CandleWay = "up" | "down";

/** Shares candles are judged by, each above 0 and at most 1. */
export interface CandleRules {
  /** A body of at most this share of the range is small. */
  body: number;
  /** A wick of at least this share of it is long; above a half, so that one candle has one at most. */
  wick: number;
  /** The first body of a star has at least this share of its range. */
  long: number;
  /** The middle body of a star has at most this share of the first. */
  star: number;
  /** A candle that opened on one end of its range and closed on the other leaves at most this share at either. */
  end: number;
}

export const CANDLE_RULES: CandleRules = { body: 1 / 4, wick: 3 / 5, long: 1 / 2, star: 0.3, end: 1 / 20 };

/** A candle, or candles in a row, known at the close of bar `at`. */
export interface CandleSeen {
  name: CandleName;
  /** Which way it speaks, where it does. */
  way?: CandleWay;
  /** Index of its first candle. */
  from: number;
  at: number;
}

type Prices = Pick<Series, "open" | "high" | "low" | "close">;

/** A candle in whole ticks: sums and shares of them are exact. */
interface Ticks {
  open: number;
  high: number;
  low: number;
  close: number;
  /** Above 0 when it rose. */
  move: number;
  body: number;
  range: number;
}

/** A price counts as one that was computed within a thousandth of a tick. */
const REACH = 1e-3;

/** What the last of the candles makes of them, the newest first; those that are not there yet are undefined. */
type Judge = (rules: CandleRules, c: Ticks, b?: Ticks, a?: Ticks) => CandleWay | "none" | undefined;

const wayOf = ({ move }: Ticks): CandleWay | "none" => (move > 0 ? "up" : move < 0 ? "down" : "none");

/** How many candles each is made of, and when it is one. All common practice, no source. */
const TABLE: Readonly<Record<CandleName, { of: number; judge: Judge }>> = {
  engulfing: {
    of: 2,
    judge: (_, c, b) =>
      b &&
      c.move * b.move < 0 &&
      Math.min(c.open, c.close) <= Math.min(b.open, b.close) &&
      Math.max(c.open, c.close) >= Math.max(b.open, b.close) &&
      c.body > b.body
        ? wayOf(c)
        : undefined,
  },
  pin: {
    of: 1,
    judge({ wick }, c) {
      if (c.range <= 0) return undefined;
      const least = wick * c.range - REACH;
      if (Math.min(c.open, c.close) - c.low >= least) return "up";
      return c.high - Math.max(c.open, c.close) >= least ? "down" : undefined;
    },
  },
  inside: { of: 2, judge: (_, c, b) => (b && c.high <= b.high && c.low >= b.low ? "none" : undefined) },
  outside: { of: 2, judge: (_, c, b) => (b && c.high > b.high && c.low < b.low ? wayOf(c) : undefined) },
  indecision: {
    of: 1,
    judge: ({ body }, c) => (c.range > 0 && c.body <= body * c.range + REACH ? "none" : undefined),
  },
  star: {
    of: 3,
    judge({ long, star }, c, b, a) {
      if (!a || !b || a.move === 0 || a.move * c.move >= 0) return undefined;
      if (a.body < long * a.range - REACH || b.body > star * a.body + REACH) return undefined;
      const isMorning = a.move < 0;
      const leaves = isMorning ? Math.min(b.open, b.close) <= a.close : Math.max(b.open, b.close) >= a.close;
      const middle = a.open + a.close;
      const comesBack = isMorning ? 2 * c.close >= middle : 2 * c.close <= middle;
      return leaves && comesBack ? wayOf(c) : undefined;
    },
  },
  three: {
    of: 3,
    judge(_, c, b, a) {
      if (!a || !b) return undefined;
      const way = wayOf(c);
      if (way === "none" || wayOf(b) !== way || wayOf(a) !== way) return undefined;
      const sign = way === "up" ? 1 : -1;
      return sign * (c.close - b.close) > 0 && sign * (b.close - a.close) > 0 ? way : undefined;
    },
  },
  shaven: {
    of: 1,
    judge({ end }, c) {
      const most = end * c.range + REACH;
      const left = Math.max(c.high - Math.max(c.open, c.close), Math.min(c.open, c.close) - c.low);
      return c.range > 0 && left <= most ? wayOf(c) : undefined;
    },
  },
};

function ticksAt({ open, high, low, close }: Prices, i: number, tick: number): Ticks | undefined {
  if (i < 0) return undefined;
  const [o, h, l, c] = [open[i], high[i], low[i], close[i]].map((price) => Math.round(price / tick));
  return { open: o, high: h, low: l, close: c, move: c - o, body: Math.abs(c - o), range: h - l };
}

/** What is seen at the close of bar `i`, in the order of `CANDLES`. O(1). */
export function candlesAt(
  prices: Prices,
  i: number,
  tick: number,
  { rules = CANDLE_RULES, names = CANDLES }: { rules?: CandleRules; names?: readonly CandleName[] } = {},
): CandleSeen[] {
  const [c, b, a] = [0, 1, 2].map((back) => ticksAt(prices, i - back, tick));
  return CANDLES.flatMap((name): CandleSeen[] => {
    if (!names.includes(name)) return [];
    const { of, judge } = TABLE[name];
    const way = judge(rules, c!, b, a);
    if (way === undefined) return [];
    return [{ name, ...(way === "none" ? {} : { way }), from: i - of + 1, at: i }];
  });
}
