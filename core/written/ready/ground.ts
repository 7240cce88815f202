import type { CountScenario } from "#core/scenarios/fromCount";
import type { RungReading } from "#core/finding/reading";
import type { PatternGround } from "#core/written/ready/patternGround";
import type { Subject } from "#core/written/subject";
import { emptyOrder, type WrittenOrder, type WrittenPrice, type WrittenTerms } from "#core/written/written";

/** What a rung shows, to fill a sentence from. */
export interface ReadyGround {
  close: number;
  atr: number;
  tick: number;
  rung: string;
  /** A shorter rung, whose structure turns first; the same where there is none. */
  finer: string;
  /** What marks and areas say, nearest first. */
  subjects: readonly Subject[];
  /** Swings of the rung, oldest first, and its last two legs. */
  labels: readonly Pick<RungReading["labels"][number], "price" | "side">[];
  legs: readonly Pick<RungReading["legs"][number], "direction" | "bottom" | "top">[];
  /** The last two closed weeks, older first, where there are so many. */
  weeks?: readonly [Band, Band];
  /** What live counts ask for, preferred first. */
  counts: readonly { mark: string; asks: CountScenario }[];
  /** Patterns that wait for their break, nearest first. */
  patterns?: readonly PatternGround[];
}

export interface Band {
  bottom: number;
  top: number;
}

export const signOf = (direction: "long" | "short"): 1 | -1 => (direction === "long" ? 1 : -1);

/** A price on the market's grid. */
export function onTick(price: number, { tick }: Pick<ReadyGround, "tick">): number {
  return Number((Math.round(price / tick) * tick).toFixed(10));
}

/** Terms with one order; what is not said is not asked for. */
export function termsWith(
  direction: "long" | "short",
  said: Partial<Omit<WrittenTerms, "expires" | "direction" | "orders">>,
  order: Partial<WrittenOrder>,
): Omit<WrittenTerms, "expires"> {
  return {
    direction,
    while: [],
    if: [],
    unless: [],
    trail: null,
    wrong: null,
    ...said,
    orders: [{ ...emptyOrder(), ...order }],
  };
}

/**
 * Targets ahead of a price: the two nearest things on the other side that are worth their risk, or twice and three
 * times the risk where nothing stands there.
 */
export function targetsAhead(
  ground: ReadyGround,
  direction: "long" | "short",
  entry: number,
  risk: number,
): { price: WrittenPrice; share: number }[] {
  const sign = signOf(direction);
  const edge = ({ bottom, top }: Subject) => (sign > 0 ? bottom : top);
  const least = Math.max(risk, ground.tick);
  const inWay = ground.subjects
    .filter((subject) => subject.role !== "kill" && sign * (edge(subject) - entry) >= least)
    .sort((a, b) => sign * (edge(a) - edge(b)));
  // Where a count leads is no thing that price turns at: taken where nothing else stands.
  const standing = inWay.filter(({ role }) => role === undefined);
  const ahead = standing.length > 0 ? standing : inWay;
  const first = ahead.at(0);
  const second = first && ahead.find((one) => sign * (edge(one) - edge(first)) >= least / 2);
  const priceOf = (one: Subject): WrittenPrice => (sign > 0 ? one.low : one.high) ?? one.price;
  if (first && second) return halves([priceOf(first), priceOf(second)]);
  const multiple = (r: number) => onTick(entry + sign * r * risk, ground);
  return first
    ? halves([priceOf(first), onTick(edge(first) + sign * risk, ground)])
    : halves([multiple(2), multiple(3)]);
}

const halves = (prices: WrittenPrice[]) => prices.map((price) => ({ price, share: 1 / prices.length }));

/** The nearest subject that is so. */
export function nearest(ground: ReadyGround, is: (subject: Subject) => boolean): Subject | undefined {
  return ground.subjects.find(is);
}

/** The last swing on a side. */
export function lastSwing({ labels }: ReadyGround, side: "high" | "low"): number | undefined {
  return labels.findLast((one) => one.side === side)?.price;
}
