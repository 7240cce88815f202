/** What a payment house says of a membership. */
export const PAYMENTS = ["trial", "paid", "failed", "lapsed", "refunded"] as const;
export type Payment = (typeof PAYMENTS)[number];

/** One thing a payment house says. */
export interface PaymentEvent {
  kind: Payment;
  /** Id of the plan it is for. */
  plan: string;
  /** When it happened, milliseconds. */
  at: number;
  /** Until when it holds: the end of what was paid for, of a trial, or of the grace after a charge that failed. */
  until?: number | undefined;
}

/** A reader's membership, as the last thing that was said of it has it. */
export interface Membership {
  plan: string;
  /** Id of the plan the reader was on before, and is on again once it is over. */
  before: string;
  state: Payment;
  until: number;
  at: number;
}

const DAY = 86_400_000;
/** A membership that was paid for goes on so long while nothing is heard of the next charge. */
export const GRACE = 3 * DAY;

/**
 * A membership after something more was said of it. What comes late, of before the last thing that was said, changes
 * nothing: messages may come in any order. `onPlan` is the plan its reader is on while there is no membership.
 */
export function afterPayment(held: Membership | undefined, event: PaymentEvent, onPlan: string): Membership {
  if (held && event.at <= held.at) return held;
  const { kind: state, plan, at } = event;
  const isOver = state === "lapsed" || state === "refunded";
  const until = isOver ? at : Math.max(at, event.until ?? held?.until ?? at);
  return { plan, before: held?.before ?? onPlan, state, until, at };
}

/** Whether a membership lets its reader see what its plan shows. */
export function isRunning({ state, until }: Pick<Membership, "state" | "until">, now: number): boolean {
  if (state === "lapsed" || state === "refunded") return false;
  return now < (state === "paid" ? until + GRACE : until);
}
