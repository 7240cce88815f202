import { NEVER } from "#core/observe/instant";
import type { FollowUp } from "#core/scenarios/events";
import type { ScenarioTerms } from "#core/scenarios/terms";

/** A trade that was not taken. It is followed as the scenario it would have been. */
export interface Setup {
  what: "passed" | "missed";
  reason: string;
  direction: "long" | "short";
  entry: number;
  stop: number;
  target: number;
}

/** Where it ended, or that it has not; `missed` when the next open left too little of it. */
export type SetupEnd = "target" | "stopped" | "missed" | "open";

/** Reward to risk of an entry with its stop and target; `undefined` where they stand on the wrong sides. */
export function rewardToRisk({
  direction,
  entry,
  stop,
  target,
}: Pick<Setup, "direction" | "entry" | "stop" | "target">): number | undefined {
  const sign = direction === "long" ? 1 : -1;
  const risk = sign * (entry - stop);
  const reward = sign * (target - entry);
  return risk > 0 && reward > 0 ? reward / risk : undefined;
}

/** A setup as a scenario without steps: entered at the next open, its risk the one that was planned. */
export function termsOfSetup({ direction, entry, stop, target }: Setup): ScenarioTerms {
  return {
    direction,
    while: [],
    if: [],
    unless: [],
    entry: { order: "market", price: entry },
    stop,
    targets: [{ price: target, share: 1 }],
    breakEven: null,
    trail: null,
    expires: NEVER,
    cost: 0,
    through: 0,
  };
}

/** How it ended by what happened to it, and when that was known. */
export function endOfSetup(events: readonly FollowUp[]): { end: SetupEnd; at?: number; ambiguous: boolean } {
  const ambiguous = events.some((event) => event.ambiguous);
  for (const { event, knownAt: at } of events)
    if (event === "target" || event === "stopped") return { end: event, at, ambiguous };
    else if (event === "missed" || event === "invalid") return { end: "missed", at, ambiguous };
  return { end: "open", ambiguous };
}
