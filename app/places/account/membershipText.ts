import type { Payment } from "#core/readers/membership";
import { momentText } from "../../parts/times.ts";

const STATES: Record<Payment, string> = {
  trial: "on trial until",
  paid: "paid until",
  failed: "the last charge failed; it goes on until",
  lapsed: "lapsed on",
  refunded: "paid back on",
};

/** Where a membership stands: "paid until Sun 29 Nov 2026, 07:21 UTC". */
export const membershipText = ({ state, until }: { state: Payment; until: number }): string =>
  `${STATES[state]} ${momentText(until, "utc")} UTC`;
