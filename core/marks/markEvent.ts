import type { Band, BandEvent } from "#core/levels/band";

type Side = "above" | "below";

/** What a bar did to a mark, in numbers; `sayEvent.ts` makes words of it. */
export type MarkEvent = { /** `time` of the bar at whose close it became known. */ time: number } & Happening;

type Happening =
  | { event: "broken" | "taken" | "takenBack"; /** Where it was closed beyond. */ side: Side }
  | {
      event: "touched" | "left" | "spent";
      touches: number;
      /** Deepest share of a band or a gap that was reached, 0 to 1. */
      deepest?: number;
      /** Which line of a channel. */
      line?: "lower" | "upper";
    }
  | { event: "swept"; /** How far beyond, in price units, where it was measured. */ depth?: number }
  | { event: "flipped" | "retested" | "filled" | "undone" | "extended" }
  | { event: "shareReached"; ratio: number }
  /** Of what measures: it counts from here on; a line of it was reached; the price it is laid against was passed. */
  | { event: "inForce" }
  | { event: "lineMet"; ratio: number; price: number }
  | { event: "negated"; price: number }
  /** A pattern was left by a close beyond a line; it failed beyond its stop; it was over before it was left. */
  | { event: "confirmed"; price: number; target?: number; side: Side }
  | { event: "failed"; price: number }
  | { event: "lapsed" | "negatedEarly" }
  /** A place in time came, so many bars after where it is counted from. */
  | { event: "timeCame"; ratio: number; bars: number }
  | { event: "due" | "overdue"; bars: number }
  /** Price left an arc, or closed beyond a speed line. */
  | { event: "lineLeft"; ratio: number; price: number }
  | { event: "turnReached"; turn: number; of: number; price: number }
  | { event: "targetReached"; wave: string; ratio: number; of: string; price: number }
  | {
      event: "killed" | "innerKilled";
      /** The statement that died, and the waves (from 0) from the root to the one that said it. */
      statement: string;
      waves: readonly number[];
      price: number;
      side: Side;
    };

/** What happened to a band, as it happened to the mark that is one. A level has no depth. */
export function bandEvent({ event, time, touches, deepest }: BandEvent, { side, bottom, top }: Band): MarkEvent {
  switch (event) {
    case "touched":
    case "left":
    case "spent":
      return { event, time, touches, ...(top > bottom ? { deepest } : {}) };
    case "broken":
      return { event, time, side: side === "demand" ? "below" : "above" };
    case "swept":
    case "flipped":
      return { event, time };
  }
}
