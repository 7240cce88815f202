import type { Bind, LinePrice, Price } from "#core/conditions/price";
import type { LEG_EVENTS } from "#core/scenarios/legs";
import type { Order, ScenarioTerms } from "#core/scenarios/terms";

/** A price, a band or a line that a mark says: it follows the mark until it is published. */
export interface Followed {
  /** Id of the mark. */
  follows: string;
  /** Which of its prices: see `partsOf`. */
  part: string;
  /** What it last said; kept when the mark is gone. */
  value: number | [bottom: number, top: number] | LinePrice;
}

/** A price as it is written; `null` while there is none yet. */
export type WrittenPrice = Price | Followed | null;
/** A band as it is written: [bottom, top]. */
export type WrittenBand = [bottom: number, top: number] | Followed | null;

/** A condition as it is written: the fields of the contract, whose prices may follow marks. */
export interface WrittenCondition {
  on: string;
  [field: string]: unknown;
}

export interface WrittenStep {
  when: WrittenCondition;
  /** Bars of the condition's rung after the step before. */
  within?: number;
}

export interface WrittenTarget {
  price: WrittenPrice;
  /** Share of the position; those of an order sum to 1. */
  share: number;
}

/** One entry with its stop and its targets. */
export interface WrittenOrder {
  /** Steps after those that all orders share; none for a first order. */
  if: WrittenStep[];
  entry: { order: Order; price?: WrittenPrice };
  stop: WrittenPrice;
  targets: WrittenTarget[];
  breakEven: ScenarioTerms["breakEven"];
  /** Share of the risk; those of all orders sum to 1. */
  risk: number;
  /** What of another order (from 1) it waits for. */
  after?: { leg: number; event: (typeof LEG_EVENTS)[number] };
}

/** What a scenario says will be done when: what is followed once it is published. */
export interface WrittenTerms {
  direction: "long" | "short";
  while: WrittenCondition[];
  if: WrittenStep[];
  unless: WrittenCondition[];
  /** At least one; an addition is a second. */
  orders: WrittenOrder[];
  trail: { by: "structure"; rung?: string } | null;
  wrong: WrittenPrice;
  /** ISO 8601 instant. */
  expires: string;
  leastReward?: number;
  cost?: number;
  through?: number;
}

export const RANKS = ["favourite", "acceptable", "doubtful"] as const;
export type Rank = (typeof RANKS)[number];
export const ROLES = ["preferred", "alternate"] as const;
export type ScenarioRole = (typeof ROLES)[number];

/** A scenario as an analyst writes it. */
export interface Written {
  format: 2;
  id: string;
  title: string;
  premise: string;
  rank: Rank;
  role: ScenarioRole;
  /** How likely its author holds it, in percent; those of a market's set and "neither" sum to 100. */
  weight: number;
  terms: WrittenTerms;
  /** Lines of the checklist that do not count here, by their rule, with the reason. */
  waived: Record<string, string>;
  /** Id of the count (a mark) it rests on. */
  restsOn?: string;
  /** What it is a pair with: both sides of one level, of which the first to come ends the other. */
  pair?: string;
}

/**
 * A scenario as it is published: its terms as the contract has them, every price of a mark a number. What was waived,
 * and why, stays on the desk.
 */
export interface Frozen extends Omit<Written, "terms" | "restsOn" | "waived"> {
  terms: Record<string, unknown>;
  /** The edition it was first called in, where it is called again as it was and followed on from there. */
  calledIn?: number;
}

export const isFollowed = (value: unknown): value is Followed =>
  typeof value === "object" && value !== null && "follows" in value;

/** A price that is a number already, as far as it is known before anything is met. */
export function plainOf(price: WrittenPrice | undefined): number | undefined {
  const value = isFollowed(price) ? price.value : price;
  return typeof value === "number" ? value : undefined;
}

export const isBind = (
  price: WrittenPrice | undefined,
): price is { bind: Bind; step: number; ticks?: number; ratio?: number } =>
  typeof price === "object" && price !== null && "bind" in price;

/** A scenario that says nothing yet. */
export function emptyWritten(id: string, expires: number): Written {
  return {
    format: 2,
    id,
    title: "",
    premise: "",
    rank: "acceptable",
    role: "preferred",
    weight: 50,
    terms: {
      direction: "long",
      while: [],
      if: [],
      unless: [],
      orders: [emptyOrder()],
      trail: null,
      wrong: null,
      expires: new Date(expires).toISOString(),
    },
    waived: {},
  };
}

export function emptyOrder(): WrittenOrder {
  return {
    if: [],
    entry: { order: "limit", price: null },
    stop: null,
    targets: [{ price: null, share: 1 }],
    breakEven: { after: "target" },
    risk: 1,
  };
}
