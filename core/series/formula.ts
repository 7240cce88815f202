import { allocate, slice, type Series } from "#core/series/series";

/**
 * How a market is made of others. Crosses and ratios multiply their legs, spreads and baskets add them:
 * `product` a x b, `quotient` and `ratio` a / b (a cross, and two markets compared), `spread` and `basket` a sum.
 */
export const FORMS = ["product", "quotient", "ratio", "spread", "basket"] as const;
export type Form = (typeof FORMS)[number];

export interface Leg {
  /** Id of the market. */
  market: string;
  /** How many units are held in a sum (below zero: sold); the power, 1 or -1, in a product. */
  units: number;
}

export interface Formula {
  form: Form;
  legs: Leg[];
  /** What the whole is multiplied by: 100 for a ratio in percent, 1 for a plain cross. */
  scale: number;
}

/** The steps prices of the result stand on. */
export interface Grid {
  tick: number;
  decimals: number;
}

export function isSum({ form }: Pick<Formula, "form">): boolean {
  return form === "spread" || form === "basket";
}

/** What is wrong with a formula, in sentences for the user; empty if it can be computed. */
export function checkFormula({ form, legs, scale }: Formula): string[] {
  const problems: string[] = [];
  const pair = form === "quotient" || form === "ratio";
  if (legs.length < 2) problems.push("At least two markets are needed.");
  if (pair && legs.length > 2) problems.push(`A ${form} has two markets.`);
  if (legs.length > MOST_LEGS) problems.push(`At most ${MOST_LEGS} markets can be put together.`);
  if (new Set(legs.map(({ market }) => market)).size < legs.length) problems.push("Each market can stand in it once.");
  if (!(Number.isFinite(scale) && scale > 0)) problems.push("The scale is a number above zero.");
  if (legs.some(({ units }) => !Number.isFinite(units) || units === 0))
    problems.push("Each market needs a weight other than zero.");
  else if (!isSum({ form }) && legs.some(({ units }) => Math.abs(units) !== 1))
    problems.push("In a product each market stands once, above or below the line.");
  else if (form === "basket" && legs.some(({ units }) => units < 0))
    problems.push("In a basket every weight is above zero.");
  return problems;
}

const MOST_LEGS = 30;

/**
 * Bars of a formula at the times that all legs have in common. Opens and closes are exact, for the legs' are of one
 * moment. Highs and lows are bounds (interval arithmetic): price was never beyond them, but the legs' own extremes
 * may not have met. Bars of a longer timeframe that are put together from these are bounded as narrowly as the finest
 * legs allow. Prices stand on the grid, bounds rounded outwards; a bar without a value (division by a range that
 * holds zero, overflow) does not exist; volume is 0, for units of different markets do not add up.
 * O(sum of the legs' lengths).
 */
export function deriveSeries(legs: readonly Series[], formula: Formula, grid: Grid): Series {
  const shortest = Math.min(...legs.map(({ length }) => length));
  const out = allocate(legs.length === 0 ? 0 : shortest);
  const at = legs.map(() => 0);
  const bounds = { low: 0, high: 0 };
  const toGrid = onGrid(grid);
  let n = 0;
  while (common(legs, at)) {
    boundsAt(legs, at, formula, bounds);
    const open = toGrid(valueAt(legs, at, formula, "open"), Math.round);
    const close = toGrid(valueAt(legs, at, formula, "close"), Math.round);
    const high = Math.max(open, close, toGrid(bounds.high, Math.ceil));
    const low = Math.min(open, close, toGrid(bounds.low, Math.floor));
    if (Number.isFinite(high - low)) {
      out.time[n] = legs[0].time[at[0]];
      out.open[n] = open;
      out.high[n] = high;
      out.low[n] = low;
      out.close[n] = close;
      n++;
    }
    at[0]++;
  }
  return slice(out, 0, n);
}

/** Moves every leg to the next time they all have; false when there is none. */
function common(legs: readonly Series[], at: number[]): boolean {
  let latest = -Infinity;
  for (let settled = 0, k = 0; settled < legs.length; k = (k + 1) % legs.length) {
    const { time, length } = legs[k];
    while (at[k] < length && time[at[k]] < latest) at[k]++;
    if (at[k] >= length) return false;
    settled = time[at[k]] === latest ? settled + 1 : 1;
    latest = time[at[k]];
  }
  return legs.length > 0;
}

function valueAt(
  legs: readonly Series[],
  at: readonly number[],
  { form, legs: parts, scale }: Formula,
  column: "open" | "close",
): number {
  const sum = isSum({ form });
  let value = sum ? 0 : 1;
  for (let k = 0; k < legs.length; k++) {
    const price = legs[k][column][at[k]];
    const { units } = parts[k];
    if (sum) value += units * price;
    else value = units > 0 ? value * price : value / price;
  }
  return value * scale;
}

function boundsAt(
  legs: readonly Series[],
  at: readonly number[],
  { form, legs: parts, scale }: Formula,
  out: { low: number; high: number },
): void {
  const sum = isSum({ form });
  let low = sum ? 0 : 1;
  let high = low;
  for (let k = 0; k < legs.length; k++) {
    let a = legs[k].low[at[k]];
    let b = legs[k].high[at[k]];
    const { units } = parts[k];
    if (sum) {
      low += units * (units > 0 ? a : b);
      high += units * (units > 0 ? b : a);
      continue;
    }
    if (units < 0) [a, b] = a <= 0 && b >= 0 ? [NaN, NaN] : [1 / b, 1 / a];
    const [p, q, r, s] = [low * a, low * b, high * a, high * b];
    low = Math.min(p, q, r, s);
    high = Math.max(p, q, r, s);
  }
  out.low = low * scale;
  out.high = high * scale;
}

/**
 * Whole ticks as a decimal number: 3 x 0.05 is 0.15, not 0.15000000000000002. A value that is on the grid but for
 * the last bits of a double is not pushed a tick outwards.
 */
function onGrid({ tick, decimals }: Grid): (value: number, round: (ticks: number) => number) => number {
  const whole = 10 ** decimals;
  return (value, round) => {
    const ticks = value / tick;
    const nearest = Math.round(ticks);
    const steps = Math.abs(ticks - nearest) <= 1e-9 * Math.max(1, Math.abs(ticks)) ? nearest : round(ticks);
    return Math.round(steps * tick * whole) / whole;
  };
}

/** A formula in words, from its markets' names: "Verin / Tessel : Verin / Olta", "2 Tin - 1 Silver". */
export function formulaText({ form, legs, scale }: Formula, nameOf: (market: string) => string): string {
  const scaled = (text: string) => (scale === 1 ? text : `${scale} × (${text})`);
  if (form === "basket") return `basket of ${legs.map(({ market }) => nameOf(market)).join(", ")}`;
  if (form === "spread")
    return scaled(
      legs
        .map(({ market, units }, i) => {
          const sign = units < 0 ? "− " : i > 0 ? "+ " : "";
          return `${sign}${Math.abs(units) === 1 ? "" : `${Math.abs(units)} `}${nameOf(market)}`;
        })
        .join(" "),
    );
  return scaled(
    legs.map(({ market, units }, i) => `${i === 0 ? "" : units > 0 ? "× " : "÷ "}(${nameOf(market)})`).join(" "),
  );
}
