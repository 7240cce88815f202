import type { Instant } from "#core/observe/instant";
import type { Candle } from "#core/structure/candles";
import type { FollowUp } from "#core/scenarios/events";
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

/**
 * What an alert waits for. `rung` is the timeframe whose bars count. On a scenario it tells each of its steps, by its
 * terms as they stood when the alert was set (the contract's).
 */
export type AlertTerms = { again: boolean; note: string } & (
  | { on: "reach"; at: Place }
  | { on: "beyond"; at: Place; rung: string }
  | { on: "shift"; rung: string; direction: Way | "either" }
  | { on: "close"; rung: string }
  | { on: "scenario"; scenario: string; title: string; terms: Record<string, unknown> }
  | { on: "candle"; rung: string; at: Place; candle: "indecision" | "engulfing" | "either" }
);

/** Where price stands to each price of a place, and whether the next arrival there counts. */
export interface PlaceState {
  /** 1 above, -1 below, 0 in it or not known yet. */
  side: number;
  armed: boolean;
}

/** Plain data: by the place's prices in their order, and whether it has fired. */
export interface AlertState {
  places: readonly PlaceState[];
  fired: boolean;
}

/** What an alert saw, in numbers; the words are made of them in `say.ts`. */
export interface AlertEvent {
  what: "reach" | "jump" | "beyond" | "shift" | "close" | "candle" | "followUp";
  /** Opening and closing of the told bar it happened on. */
  at: Instant;
  knownAt: Instant;
  /** The close or, of a shift, the swing that was closed beyond. */
  price: number;
  /** Which price of its place, from 0. */
  place?: number;
  band?: { bottom: number; top: number; name: string };
  direction?: Way;
  candle?: Candle;
  /** What happened to a scenario. */
  followUp?: FollowUp;
}

/** The rung whose bars an alert is judged by; none where the finest bars do. */
export function rungOf(terms: AlertTerms): string | undefined {
  return "rung" in terms ? terms.rung : undefined;
}

export function placeOf(terms: AlertTerms): Place | undefined {
  return "at" in terms ? terms.at : undefined;
}
