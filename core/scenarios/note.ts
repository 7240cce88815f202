import type { FollowUp } from "#core/scenarios/events";

/** What was found out about a published outcome after it stood: the outcome itself is never changed. */
export interface OutcomeNote {
  /** Bars it had used were changed, or finer ones came for a time that was told already. */
  note: "restated" | "finer";
  /** Why bars changed: another file said otherwise, or an import was taken back. */
  cause: "import" | "undo";
  /** Market time at which it became known. */
  time: number;
  /** First and last time of the bars that changed. */
  from: number;
  to: number;
  /** Whether the bars as they are now would have led to the same follow-ups, and the last one they lead to. */
  same: boolean;
  last?: FollowUp;
}
