import { randomBytes, randomUUID } from "node:crypto";
import { Webhook } from "standardwebhooks";
import { decrypted, encrypted } from "../secret.ts";
import { HookRow, type OutboxRow } from "../database/models.ts";
import { Failure } from "../failure.ts";
import type { Letter } from "./compose.ts";
import { addressFault, OutsideFault, postOutside } from "./outside.ts";

/** Addresses of programs somebody has at most. */
const MOST = 5;

/** Tells a reader's program from now on. What it is signed with is said this once. */
export async function addHook(accountId: string, address: string): Promise<string> {
  const fault = address.length > 500 ? "An address has at most 500 characters." : addressFault(address);
  if (fault) throw new Failure("address", fault, { status: 400, kept: "Nothing was changed." });
  if ((await HookRow.count({ where: { accountId } })) >= MOST)
    throw new Failure("many", `There are ${MOST} addresses already.`, { remedy: "End one of them first." });
  const secret = `whsec_${randomBytes(24).toString("base64")}`;
  await HookRow.create({ id: randomUUID(), accountId, address, secret: encrypted(secret), createdAt: Date.now() });
  return secret;
}

export function hooksOf(accountId: string): Promise<HookRow[]> {
  return HookRow.findAll({ where: { accountId }, order: [["createdAt", "DESC"]] });
}

export async function endHook(accountId: string, id: string): Promise<void> {
  await HookRow.destroy({ where: { accountId, id: id.slice(0, 36) } });
}

/**
 * Tells a program what a reader is told: JSON, signed as Standard Webhooks 1.0 says. `webhook-id` is the same whenever
 * the same is sent. An address that says it is gone is told nothing any more.
 */
export async function sendHook({ name, what, createdAt }: OutboxRow, { subject, text }: Letter): Promise<void> {
  const { hook: id, ...of } = what as { hook: string };
  const hook = await HookRow.findByPk(id);
  if (!hook) throw new Failure("gone", "The address was ended.", { status: 410 });
  const type = "alert" in of ? "price.reached" : "scenarioId" in of ? "call.changed" : "edition.published";
  const body = JSON.stringify({ type, timestamp: new Date(createdAt).toISOString(), data: { ...of, subject, text } });
  const at = new Date();
  const messageId = name.replace(/[^A-Za-z0-9]+/g, "-");
  try {
    await postOutside(hook.address, body, {
      "webhook-id": messageId,
      "webhook-timestamp": String(Math.floor(at.getTime() / 1000)),
      "webhook-signature": new Webhook(decrypted(hook.secret)).sign(messageId, at, body),
    });
  } catch (error) {
    if (error instanceof OutsideFault && error.final) await hook.destroy();
    throw error;
  }
}
