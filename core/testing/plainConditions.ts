import { plainPrice, type PlainMet, type PlainPrice } from "#core/testing/plainPrices";
import { closesOf, type PlainBar, type ToldBar } from "#core/testing/plainTold";

/** Conditions of the second evaluator: judged anew from all bars at each of them. */
export type PlainCondition =
  | { on: "close"; side: "above" | "below"; price: PlainPrice; minutes: number }
  | { on: "hold"; side: "above" | "below"; price: PlainPrice; bars: number; minutes: number }
  | { on: "sweep"; side: "high" | "low"; price: PlainPrice; within: number; minutes: number }
  | { on: "touch"; price: PlainPrice }
  | { on: "leave"; band: [number, number]; by: number; side: "above" | "below" };

export interface Judged {
  known: number;
  /** Absent while its price is not known. */
  met?: boolean;
  left: PlainMet;
}

/** Whether a condition is met at each of its bars since an instant, with the told bar it is known with. */
export function judged(
  condition: PlainCondition,
  told: readonly ToldBar[],
  since: number,
  steps: readonly PlainMet[],
  sign: 1 | -1,
): Judged[] {
  const own = told.map((bar, known) => ({ ...bar, known }));
  const bars = ("minutes" in condition ? closesOf(told, condition.minutes) : own).filter(({ from }) => from >= since);
  const beyond = (side: string, a: number, b: number) => (side === "above" || side === "high" ? a > b : a < b);
  const prices = bars.map(({ known, label }) =>
    "price" in condition ? plainPrice(condition.price, told, known, label, steps, sign) : NaN,
  );
  return bars.map((bar, i): Judged => {
    const { known, high, low, close } = bar;
    const at = prices[i];
    const left: PlainMet = { barHigh: high, barLow: low, close };
    if (condition.on === "hold") {
      const row = bars.slice(Math.max(0, i - condition.bars + 1), i + 1);
      const all = row.every((one, n) => {
        const then = prices[i - row.length + 1 + n];
        return then !== undefined && beyond(condition.side, one.close, then);
      });
      return { known, met: row.length === condition.bars && all, left: { ...left, level: at } };
    }
    if (at === undefined) return { known, left };
    switch (condition.on) {
      case "close":
        return { known, met: beyond(condition.side, close, at), left: { ...left, level: at } };
      case "touch":
        return { known, met: low <= at && high >= at, left: { ...left, level: at } };
      case "leave": {
        const [bottom, top] = condition.band;
        const gone = condition.side === "above" ? close - top : bottom - close;
        return { known, met: gone >= condition.by, left };
      }
      case "sweep": {
        const swept = sweptAt(condition, bars, prices, i);
        return swept === undefined
          ? { known, met: false, left }
          : { known, met: true, left: { ...left, level: at, sweptExtreme: swept } };
      }
    }
  });
}

/** The furthest price of the attempt that bar `i` closes back from; `undefined` if it closes back from none. */
function sweptAt(
  { side, within }: Extract<PlainCondition, { on: "sweep" }>,
  bars: readonly PlainBar[],
  prices: readonly (number | undefined)[],
  i: number,
): number | undefined {
  const sign = side === "high" ? 1 : -1;
  const wickOf = (n: number) => (side === "high" ? bars[n].high : bars[n].low);
  const isWick = (n: number) => sign * (wickOf(n) - (prices[n] ?? NaN)) > 0;
  const isBack = (n: number) => sign * (bars[n].close - (prices[n] ?? NaN)) <= 0;
  const known = bars.map((_bar, n) => n).filter((n) => n <= i && prices[n] !== undefined);
  const wicks = known.filter(isWick);
  // How many known bars lie behind one.
  const behind = (n: number) => known.filter((one) => one > n).length;
  const last = wicks.at(-1);
  if (prices[i] === undefined || last === undefined || behind(last) > within || !isBack(i)) return undefined;
  // The attempt reaches back over wicks that follow each other closely and from which nothing had come back yet.
  let first = last;
  for (const wick of wicks.slice(0, -1).reverse()) {
    const between = known.filter((n) => n >= wick && n < first);
    if (between.length > within + 1 || between.some(isBack)) break;
    first = wick;
  }
  return sign * Math.max(...known.filter((n) => n >= first).map((n) => sign * wickOf(n)));
}
