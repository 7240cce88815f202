/**
 * A scenario of the first format, as older editions hold it: while it is not wrong, if the trigger comes before expiry,
 * enter, with stop and targets. Written today is `core/written`.
 */
export interface Scenario {
  id: string;
  title: string;
  premise: string;
  direction: "long" | "short";
  trigger: Trigger;
  entry: { order: "market" | "limit" | "stop"; price: number };
  stop: number;
  /** Nearest first; shares of the position, together 1. */
  targets: { price: number; share: number }[];
  /** Wrong once a wick is strictly beyond: below for a long, above for a short. */
  invalidation: number;
  /** Milliseconds UTC; a scenario not entered by then lapses. */
  expiry: number;
  /** Id of the count (a mark) it rests on; when that dies the scenario has lost its reason. */
  restsOn?: string;
}

export interface Trigger {
  event: "closeAbove" | "closeBelow";
  price: number;
  /** ISO 8601 timeframe whose close counts. */
  timeframe: string;
}
