import type { Way } from "#core/structure/structure";

/** Where an alert waits: a price band, or a mark whose prices count as they stand at each bar. */
export interface Place {
  bottom: number;
  top: number;
  /** What stands there, in the trade's words: "demand zone", "area of week and day". */
  name: string;
  /** Id of the mark, where it is one. */
  mark?: string;
  /** How far price must be gone before another arrival counts, in price units. */
  leave: number;
}

/** What an alert waits for. `rung` is the timeframe whose bars count. */
export type AlertTerms = { again: boolean; note: string } & (
  | { on: "reach"; at: Place }
  | { on: "beyond"; at: Place; rung: string }
  | { on: "shift"; rung: string; direction: Way | "either" }
  | { on: "close"; rung: string }
  | { on: "candle"; rung: string; at: Place; candle: "indecision" | "engulfing" | "either" }
);

/** Where price stands to each price of a place, and whether the next arrival there counts. */
export interface PlaceState {
  /** 1 above, -1 below, 0 in it or not known yet. */
  side: number;
  armed: boolean;
}

/** By the place's prices in their order; empty for alerts without a place. */
export type AlertState = PlaceState[];

export interface Firing {
  /** Tells it from every other firing of the alert. */
  event: string;
  /** Instant at which it was known: the close of the bar that did it. */
  at: number;
  says: string;
}

/** The rung whose bars an alert is judged by; none where the finest bars do. */
export function rungOf(terms: AlertTerms): string | undefined {
  return terms.on === "reach" ? undefined : terms.rung;
}

export function placeOf(terms: AlertTerms): Place | undefined {
  return "at" in terms ? terms.at : undefined;
}
