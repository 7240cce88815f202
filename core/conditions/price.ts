import type { Fields } from "#core/conditions/fields";
import { closesOf, metBy, type Judged, type Judgement, type Look, type Met } from "#core/conditions/condition";
import { priceText, rungText } from "#core/marks/wording";
import type { MarketFacts } from "#core/marks/kind";
import type { Moment, Need, RungClose } from "#core/observe/tape";
import { DAY, parseDate } from "#core/time/dates";

/** A straight line over the bars of a rung, through two anchors and past the last one. */
export interface LinePrice {
  line: readonly [LineAnchor, LineAnchor];
  /** ISO 8601; what is told itself where it is left out. */
  rung?: string;
}

export interface LineAnchor {
  /** Label (ms UTC) of a bar of the rung, or an instant within it. */
  time: number;
  price: number;
}

/**
 * A price that is known once a step has been met. Which condition leaves what behind:
 * - every condition of a rung, and `touch`: `barHigh`, `barLow` of the bar it was met with;
 * - `sweep`: `sweptExtreme`, the furthest price beyond;
 * - `shift`: `brokenSwing`, the swing that was closed beyond; `swing`, the extreme the move came from; `gapFar`,
 *   `gapNear`, `gapMiddle` of the last gap that move left; `midOfLeg`, a share of the move back from its end.
 * - `pattern`: `patternStop` and `patternTarget`, and as `level` the line it was left at;
 * - every condition about a price: `level`, what that was then.
 * `all`, `any` and `then` leave what a part of theirs left.
 */
export interface BoundPrice {
  bind: Bind;
  /** Which step, from 1. */
  step: number;
  /** Ticks added in the direction of the trade; 0 where left out. */
  ticks?: number;
  /** Share of the leg that is given back, of `midOfLeg`; 0.5 where left out. */
  ratio?: number;
}

/**
 * The extreme, or the close, of the last bar of a rung known before: "yesterday's low". Of conditions, and of targets,
 * where it is what it is when the last step is met.
 */
export interface PreviousPrice {
  /** ISO 8601 duration of the rung. */
  previous: string;
  of: "high" | "low" | "close";
}

/** So many times the risk from the entry, as both are planned when the last step is met. Of targets only. */
export interface RewardPrice {
  r: number;
}

export const BINDS = {
  gapFar: "the far edge of the gap",
  gapNear: "the near edge of the gap",
  gapMiddle: "the middle of the gap",
  sweptExtreme: "the extreme of the sweep",
  swing: "the swing it came from",
  brokenSwing: "the swing it broke",
  barHigh: "the high of its bar",
  barLow: "the low of its bar",
  midOfLeg: "the middle of its leg",
  level: "the price it is about",
  patternStop: "the stop of the pattern",
  patternTarget: "the target of the pattern",
} as const;
export type Bind = keyof typeof BINDS;

export type Price = number | LinePrice | BoundPrice | PreviousPrice | RewardPrice;

export const isLine = (price: Price): price is LinePrice => typeof price === "object" && "line" in price;
export const isPrevious = (price: Price): price is PreviousPrice => typeof price === "object" && "previous" in price;
export const isReward = (price: Price): price is RewardPrice => typeof price === "object" && "r" in price;
export const isBound = (price: Price): price is BoundPrice => typeof price === "object" && "bind" in price;

/** Where a price stands: what conditions look for, what an order is made at, or what it aims for. */
export type PriceOf = "condition" | "order" | "target";

/** A price from untrusted data: a number, a line, one bound to a step, or what may stand there besides. */
export function readPrice(fields: Fields, name: string, of: PriceOf = "condition"): Price {
  const value = fields.take(name);
  if (typeof value !== "object" || value === null) return fields.price(name);
  const own = fields.at(value, name);
  const read = readObject(own, of);
  own.done();
  return read;
}

function readObject(own: Fields, of: PriceOf): Price {
  if (own.has("line")) return readLine(own);
  if (of !== "order" && own.has("previous")) return readPrevious(own);
  if (of === "target" && own.has("r")) return { r: own.number("r", 0, true) };
  return readBound(own);
}

function readPrevious(own: Fields): PreviousPrice {
  const { rung } = own.rung("previous");
  return { previous: rung ?? own.fault("previous", "must name a rung"), of: own.oneOf("of", ["high", "low", "close"]) };
}

function readLine(own: Fields): LinePrice {
  const [a, b] = own.list("line", 2, 2).map((raw, i): LineAnchor => {
    const anchor = own.at(raw, `line[${i}]`);
    const read = { time: readLabel(anchor), price: anchor.price("price") };
    anchor.done();
    return read;
  });
  if (b.time <= a.time) own.fault("line", "must have its second anchor after the first");
  return { line: [a, b], ...own.rung() };
}

/** A date alone is a label, the same in every zone; anything else an instant. */
function readLabel(anchor: Fields): number {
  const raw = anchor.take("time");
  const day = typeof raw === "string" ? parseDate(raw) : undefined;
  return day === undefined ? anchor.moment("time") : day * DAY;
}

function readBound(own: Fields): BoundPrice {
  const bind = own.oneOf("bind", Object.keys(BINDS) as Bind[]);
  return {
    bind,
    step: own.whole("step", 1, 40),
    ...(own.has("ticks") ? { ticks: own.number("ticks", -1e6) } : {}),
    ...(bind === "midOfLeg" && own.has("ratio") ? { ratio: own.number("ratio", -10) } : {}),
  };
}

/** What must be known of rungs for a price to have a value. */
export function needsOfPrices(prices: readonly (Price | undefined)[]): Need[] {
  return prices.flatMap((price): Need[] => {
    if (price === undefined) return [];
    if (isLine(price)) return [{ rung: price.rung, of: "labels" }];
    return isPrevious(price) ? [{ rung: price.previous, of: "closes" }] : [];
  });
}

/**
 * The value of a line at the label of a bar; `undefined` while an anchor lies ahead, before the first bar there is, or
 * both lie in one bar. Straight in bars: those that are not there take no room.
 */
export function lineAt({ line: [a, b], rung }: LinePrice, moment: Moment, label: number): number | undefined {
  const [at, first, second] = [label, a.time, b.time].map((time) => moment.indexOf(rung, time));
  if (at === undefined || first === undefined || second === undefined || first === second) return undefined;
  return a.price + ((b.price - a.price) * (at - first)) / (second - first);
}

/** A bound price from what its step has left; `undefined` when it has left no such thing. */
export function boundPrice(
  { bind, ticks = 0, ratio = 0.5 }: BoundPrice,
  met: Met | undefined,
  { sign, tick }: { sign: 1 | -1; tick: number },
): number | undefined {
  const price = met && left(met, bind, ratio);
  return price === undefined ? undefined : price + sign * ticks * tick;
}

function left(
  { high, low, swept, swing, broken, gap, legEnd, level, stop, target }: Met,
  bind: Bind,
  ratio: number,
): number | undefined {
  switch (bind) {
    case "barHigh":
      return high;
    case "barLow":
      return low;
    case "sweptExtreme":
      return swept;
    case "swing":
      return swing;
    case "brokenSwing":
      return broken;
    case "gapFar":
      return gap?.far;
    case "gapNear":
      return gap?.near;
    case "gapMiddle":
      return gap && (gap.far + gap.near) / 2;
    case "level":
      return level;
    case "patternStop":
      return stop;
    case "patternTarget":
      return target;
    case "midOfLeg":
      return swing === undefined || legEnd === undefined ? undefined : legEnd + ratio * (swing - legEnd);
  }
}

/** What a price is while a condition looks; `undefined` while it is not known. */
export function priceAt(price: Price, look: Look, label: number): number | undefined {
  if (typeof price === "number") return price;
  if (isLine(price)) return lineAt(price, look.moment, label);
  if (isPrevious(price)) return look.moment.previous(price.previous)?.[price.of];
  if (isReward(price)) return undefined;
  return boundPrice(price, look.met[price.step - 1], look.trade ?? { sign: 1, tick: 0 });
}

/** Judges each close of a rung against a price; while that is not known, nothing is. What is left names the price. */
export function judgeAt(
  look: Look,
  rung: string | undefined,
  price: Price,
  isMet: (close: RungClose, at: number) => boolean,
): Judgement<null> {
  const judged = closesOf(look, rung).map((close): Judged => {
    const at = priceAt(price, look, close.bar.time);
    return { ...(at === undefined ? {} : { met: isMet(close, at) }), by: metBy(close, rung, at) };
  });
  return { state: null, judged };
}

/** As it is read aloud: "404.10", "the daily line through 402.00 and 404.10", "2 ticks below the low of its bar". */
export function sayPrice(price: Price, market: Pick<MarketFacts, "decimals">, sign: 1 | -1 = 1): string {
  if (typeof price === "number") return priceText(price, market);
  if (isLine(price)) {
    const [a, b] = price.line.map((anchor) => priceText(anchor.price, market));
    return `the ${price.rung ? `${rungText(price.rung).toLowerCase()} ` : ""}line through ${a} and ${b}`;
  }
  if (isPrevious(price)) return `the ${price.of} of the ${rungText(price.previous).toLowerCase()} before`;
  if (isReward(price)) return `${price.r} R`;
  const { bind, step, ticks = 0, ratio = 0.5 } = price;
  const what =
    bind === "midOfLeg" && ratio !== 0.5 ? `${Math.round(ratio * 1000) / 10} % of its leg back` : BINDS[bind];
  const beside =
    ticks === 0
      ? ""
      : `${Math.abs(ticks)} ${Math.abs(ticks) === 1 ? "tick" : "ticks"} ${sign * ticks > 0 ? "above" : "below"} `;
  return `${beside}${what} (step ${step})`;
}
