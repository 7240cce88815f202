import type { Anchor } from "#core/marks/kind";
import type { MeasuredKind } from "#core/measure/measured";
import type { RateKind } from "#core/measure/occurrences";

/** The steps of the working order that the machine has proposals for. */
export const FINDING_STEPS = ["structure", "levels", "zones", "projections", "patterns"] as const;
export type FindingStep = (typeof FINDING_STEPS)[number];

/** A stretch of time that a fact rests on: from the first instant of its first bar to the last of its last. */
export interface Source {
  from: number;
  to: number;
}

/** Facts that say where price stands or has stood: what is laid off, and patterns, say where it may go: no area. */
export const placesOf = <T extends Pick<Found, "step">>(facts: readonly T[]): T[] =>
  facts.filter(({ step }) => step !== "projections" && step !== "patterns");

/** Whether two stretches of time have an instant in common. */
export function coincide(a: Source, b: Source): boolean {
  return a.from < b.to && b.from < a.to;
}

/**
 * Something found on a rung. It says which kind of mark it would be; its key is the same whenever and wherever it is
 * found again, so that a yes or a no stays said.
 */
export interface Found {
  key: string;
  step: FindingStep;
  kind: string;
  anchors: Anchor[];
  props: Record<string, unknown>;
  /** What it is, in the trade's words: "Demand, drop-base-rally". */
  name: string;
  rung: string;
  /** `time` of the bar at whose close it is known. */
  knownAt: number;
  bottom: number;
  top: number;
  role: "support" | "resistance" | "level";
  state: string;
  /** How untouched it is, 0 (used up) to 1: what it counts for in an area (definition our own), no promise. */
  freshness: number;
  /** What speaks for or against it, as it was seen: "left at 2.4 ATR", "broke structure". */
  why: string[];
  /** The kind under which its worth is measured; none where it never was. */
  measured?: MeasuredKind;
  /** What it is an occurrence of, where how often such went on was counted. */
  rate?: RateKind;
  sources: Source[];
  /** Rungs and names under which the same fact was found, this one first. */
  lineage: { rung: string; name: string }[];
  /** Keys of the others that are the same fact. */
  alsoKeys: string[];
}
