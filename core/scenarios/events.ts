import type { Instant } from "#core/observe/instant";
import type { TradeEvent } from "#core/scenarios/trade";

export type FollowUpName = TradeEvent["event"] | "step" | "triggered" | "trailed" | "expired" | "cancelled" | "passed";

/** Why a scenario was given up before an entry. */
export type Reason = "while" | "unless" | "late" | "geometry" | "bind" | "leg";

/** Something that happened to a scenario: numbers; the words are made of them in `say.ts`. */
export interface FollowUp {
  event: FollowUpName;
  /** Opening and closing of the told bar it happened on. */
  at: Instant;
  knownAt: Instant;
  price: number;
  /** Which step, from 1. */
  step?: number;
  /** Which target, from 1. */
  target?: number;
  /** Result so far in multiples of the planned risk, of events that realise something. */
  r?: number;
  /** Not every way through the bar leads to the same; counted is the one that leaves the least. */
  ambiguous?: true;
  reason?: Reason;
  /** Which condition of its list cancelled it, from 1. */
  which?: number;
  /** The price that could not be bound, by its field. */
  field?: string;
  /** Which leg, from 1, of a scenario of several. */
  leg?: number;
}

/** A follow-up as it is stored: early ones had one time, the bar's opening or the close that triggered. */
export type StoredFollowUpEvent = FollowUp | (Omit<FollowUp, "at" | "knownAt"> & { time: number });

export function asFollowUp(stored: StoredFollowUpEvent): FollowUp {
  if ("knownAt" in stored) return stored;
  const { time, ...event } = stored;
  return { ...event, at: time as Instant, knownAt: time as Instant };
}
