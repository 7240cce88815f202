import type { Kinds, Look, Met } from "#core/conditions/condition";
import type { Terms } from "#core/conditions/registry";
import type { Moment } from "#core/observe/tape";
import { asInstant, type Instant } from "#core/observe/instant";

/** One step of a sequence. */
export interface StepTerms {
  when: Terms;
  /** Bars of the condition's rung in which it must come; no limit where it is left out. */
  within?: number;
}

/** How far a sequence has come: plain data. */
export interface StepsState {
  /** When the step that is waited for began to look. */
  since: Instant;
  /** How the steps so far were met. */
  met: readonly Met[];
  /** Bars judged for the step that is waited for, where it has a limit. */
  judged: number;
  /** Its condition's own state. */
  own: unknown;
}

export function beginSteps(
  kinds: Kinds,
  steps: readonly StepTerms[],
  since: Instant,
  met: readonly Met[] = [],
): StepsState {
  const step = steps.at(met.length);
  return { since, met, judged: 0, own: step ? kinds.of(step.when).start(step.when) : null };
}

/** A condition of a rung has nothing to judge while no bar of that rung has closed. */
function isDeaf(when: Terms, moment: Moment): boolean {
  return "rung" in when && when.rung !== undefined && moment.closes(when.rung).length === 0;
}

/**
 * Shows a moment to the step that is waited for. A step is looked for only in bars that opened when the step before was
 * known, so one moment meets one step at most. `lapsed`: its bars have gone by.
 */
export function advanceSteps(
  kinds: Kinds,
  steps: readonly StepTerms[],
  state: StepsState,
  look: Omit<Look, "since" | "met">,
): { state: StepsState; isMet: boolean; lapsed: boolean } {
  const step = steps.at(state.met.length);
  if (!step || isDeaf(step.when, look.moment)) return { state, isMet: false, lapsed: false };
  const { state: own, judged } = kinds.of(step.when).next(step.when, state.own, { ...look, ...state });
  let count = state.judged;
  for (const one of judged) {
    count++;
    const since = asInstant(look.moment.told.to);
    if (one.met) return { state: beginSteps(kinds, steps, since, [...state.met, one.by]), isMet: true, lapsed: false };
    if (step.within !== undefined && count >= step.within)
      return { state: { ...state, own, judged: count }, isMet: false, lapsed: true };
  }
  // Without a limit nothing hangs on how many there were.
  const judgedSo = step.within === undefined ? state.judged : count;
  return { state: { ...state, own, judged: judgedSo }, isMet: false, lapsed: false };
}
