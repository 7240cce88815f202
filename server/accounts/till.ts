import { randomUUID } from "node:crypto";
import { Webhook } from "standardwebhooks";
import type { Payment } from "#core/readers/membership";
import { Failure, notFound } from "../failure.ts";
import { membershipOf } from "./memberships.ts";
import { readSettings } from "../settings.ts";

const DAY = 86_400_000;
/** How long each holds, where it does. */
const LASTS: Partial<Record<Payment, number>> = { trial: 14 * DAY, paid: 30 * DAY, failed: 7 * DAY };

/** Whether the payment house is this desk's stand-in. */
export const isStandIn = (): boolean => readSettings().COMPASS_TILL === "stand-in";

/**
 * What a payment house does, by a stand-in on which nothing is charged: it says what happened, signed, to the same
 * address a real one would.
 */
export async function sayPayment(kind: Payment, account: string, plan: string, now = Date.now()): Promise<void> {
  const { COMPASS_TILL_SECRET: secret, COMPASS_PORT } = readSettings();
  if (!isStandIn() || !secret) throw notFound("till");
  // A house gives a trial once: who had one pays.
  if (kind === "trial" && (await membershipOf(account)))
    throw new Failure("trial", "A trial is given once.", { status: 409, kept: "Nothing was changed." });
  const lasts = LASTS[kind];
  const data = { account, plan, at: now, ...(lasts === undefined ? {} : { until: now + lasts }) };
  const body = JSON.stringify({ type: `membership.${kind}`, timestamp: new Date(now).toISOString(), data });
  const id = `msg-${randomUUID()}`;
  const answer = await fetch(`http://127.0.0.1:${COMPASS_PORT}/api/payments`, {
    method: "POST",
    body,
    headers: {
      "Content-Type": "application/json",
      "webhook-id": id,
      "webhook-timestamp": String(Math.floor(now / 1000)),
      "webhook-signature": new Webhook(secret).sign(id, new Date(now), body),
    },
  });
  if (!answer.ok)
    throw new Failure("till", "The desk did not take what the payment house said.", {
      status: 409,
      remedy: "Try again.",
    });
}
