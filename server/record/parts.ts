import { cutFields, EVENT_SEEN_WITH } from "#core/edition/eventParts";
import type { FollowUp } from "#core/scenarios/events";
import type { OutcomeNote } from "#core/scenarios/note";
import type { NewPart } from "./entry.ts";

/** Which follow-up or note of a call it is. */
interface OfCall {
  edition: number;
  scenarioId: string;
  sequence: number;
  createdAt: number;
}

/** A follow-up as it is entered: cut where a plan may show that it happened, and not what it came to. */
export function followUpPart({ event, ...of }: OfCall & { event: FollowUp }): NewPart {
  return { kind: "followUp", ...of, content: event, see: EVENT_SEEN_WITH[event.event], cuts: cutFields(event) };
}

/** A note says what an order would have come to. */
export function notePart({ note, ...of }: OfCall & { note: OutcomeNote }): NewPart {
  return { kind: "note", ...of, content: note, see: "scenarios+orders" };
}

/** A change of bars that had been told, as it is entered. */
export interface Restated {
  id: string;
  market: string;
  base: string;
  cause: string;
  importId: string;
  from: number;
  to: number;
  bars: number;
  accountId: string;
  createdAt: number;
}

export function restatedPart({ id, createdAt, ...content }: Restated): NewPart {
  return { kind: "restated", edition: 0, scenarioId: id, sequence: 0, createdAt, content, see: "desk" };
}
