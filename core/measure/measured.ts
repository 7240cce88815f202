import type { Interval } from "#core/statistics/intervals";

/** Kinds of findings whose worth is measured, in the order they are listed. */
export const MEASURED_KINDS = ["zone", "orderBlock", "range", "gap", "equalLevel", "periodExtreme", "pivot"] as const;
export type MeasuredKind = (typeof MEASURED_KINDS)[number];

export type BandSide = "demand" | "supply";

/** A band of prices, or one price, that is held against what price did after bar `knownAt`. */
export interface BandAtBirth {
  side: BandSide;
  bottom: number;
  top: number;
  /** Index of the bar at whose close it was known; what happened up to and including it is no touch. */
  knownAt: number;
}

/** Something the machine found, as it stood when it was born. */
export interface Born extends BandAtBirth {
  kind: MeasuredKind;
  /** What was known of it at `knownAt`: finite numbers by name. */
  features: Record<string, number>;
}

/** When a band counts as respected, and for how long it is watched; stated before anything is counted. */
export interface OutcomeRules {
  /** Bars after the touching one whose closes may still decide. */
  horizon: number;
  /** How far from the near edge a close respects it, in ATR at the touching bar. */
  away: number;
}

export const OUTCOME_RULES: OutcomeRules = { horizon: 40, away: 1 };

/** What became of a band. All are indices of bars. */
export interface Outcome {
  result: "respected" | "broken" | "open" | "untouched";
  touchedAt?: number;
  /** The bar that decided, or the one at which it was given up; not there while it still runs. */
  at?: number;
}

/** A share of cases with its 95 % interval. */
export interface Share {
  n: number;
  share: number;
  interval: Interval;
}

export const signOf = (side: BandSide): 1 | -1 => (side === "demand" ? 1 : -1);

/** The edge price comes to first, and the one beyond it. */
export const edgesOfBand = ({ side, bottom, top }: Omit<BandAtBirth, "knownAt">): { near: number; far: number } =>
  side === "demand" ? { near: top, far: bottom } : { near: bottom, far: top };
