import type { Instant } from "#core/observe/instant";
import type { Candle } from "#core/structure/candles";
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

/** Plain data: by the place's prices in their order, and whether it has fired. */
export interface AlertState {
  places: readonly PlaceState[];
  fired: boolean;
}

/** What an alert saw, in numbers; the words are made of them in `say.ts`. */
export interface AlertEvent {
  what: "reach" | "jump" | "beyond" | "shift" | "close" | "candle";
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
}

/** The rung whose bars an alert is judged by; none where the finest bars do. */
export function rungOf(terms: AlertTerms): string | undefined {
  return terms.on === "reach" ? undefined : terms.rung;
}

export function placeOf(terms: AlertTerms): Place | undefined {
  return "at" in terms ? terms.at : undefined;
}
