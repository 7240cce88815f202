import { createECDH, createHash } from "node:crypto";
import webpush, { type PushSubscription, type Urgency } from "web-push";
import type { PushDto } from "#contracts/push";
import { derivedBytes, decrypted, encrypted } from "../secret.ts";
import { PushRow, type OutboxRow } from "../database/models.ts";
import { Failure } from "../failure.ts";
import type { Letter } from "./compose.ts";
import { mailDomain } from "./links.ts";
import { addressFault, OutsideFault, postOutside } from "./outside.ts";

/** Browsers of one reader that are notified at most. */
const MOST = 10;
/** Characters a notice has at most: the message as a whole must fit 4,096 bytes (RFC 8030, 7.2). */
const TITLE = 140;
const BODY = 400;
const HOUR = 3_600;

/** By which push services know this desk (RFC 8292): made of the desk's own secret, so that every process has them. */
export function pushKeys(): { publicKey: string; privateKey: string } {
  const pair = createECDH("prime256v1");
  pair.setPrivateKey(derivedBytes("web push", 32));
  return { publicKey: pair.getPublicKey("base64url"), privateKey: pair.getPrivateKey("base64url") };
}

/** Notifies a browser from now on; one that is known already is whoever's it is now. */
export async function addDevice(accountId: string, { endpoint, keys }: PushDto, name: string): Promise<void> {
  const fault = addressFault(endpoint);
  if (fault) throw new Failure("address", fault, { status: 400, kept: "Nothing was changed." });
  const id = createHash("sha256").update(endpoint).digest("hex");
  const others = (await devicesOf(accountId)).filter((one) => one.id !== id);
  if (others.length >= MOST)
    throw new Failure("many", `${MOST} browsers are notified already.`, { remedy: "End one of them first." });
  const secrets = encrypted(JSON.stringify(keys));
  await PushRow.upsert({ id, accountId, endpoint, secrets, name: name.slice(0, 160), createdAt: Date.now() });
}

export function devicesOf(accountId: string): Promise<PushRow[]> {
  return PushRow.findAll({ where: { accountId }, order: [["createdAt", "DESC"]] });
}

export async function endDevice(accountId: string, id: string): Promise<void> {
  await PushRow.destroy({ where: { accountId, id: id.slice(0, 64) } });
}

/**
 * Notifies a browser through its push service: encrypted for it alone (RFC 8291), signed as this desk's (RFC 8292). One
 * whose service says that it is gone is forgotten.
 */
export async function sendPush({ name, what }: OutboxRow, letter: Letter): Promise<void> {
  const device = await PushRow.findByPk(String(what.push));
  if (!device) throw new Failure("gone", "The browser is not notified any more.", { status: 410 });
  const subscription: PushSubscription = {
    endpoint: device.endpoint,
    keys: JSON.parse(decrypted(device.secrets)) as PushSubscription["keys"],
  };
  const isOfNow = "scenarioId" in what || "alert" in what;
  const { headers, body } = webpush.generateRequestDetails(subscription, JSON.stringify(noticeOf(name, letter)), {
    vapidDetails: { subject: `mailto:desk@${mailDomain()}`, ...pushKeys() },
    // What price has done is old news after some hours; a browser that was off is told of editions for a day.
    TTL: isOfNow ? 6 * HOUR : 24 * HOUR,
    urgency: (isOfNow ? "high" : "normal") satisfies Urgency,
  });
  try {
    await postOutside(device.endpoint, body ?? Buffer.alloc(0), textHeaders(headers));
  } catch (error) {
    if (error instanceof OutsideFault && (error.final || error.status === 404)) {
      await device.destroy();
      throw new Failure("gone", "The browser is there no more.", { status: 410 });
    }
    throw error;
  }
}

/** What the browser shows: `tag` is the same for the same, so that it is shown once. */
function noticeOf(name: string, { subject, text, address }: Letter) {
  // The last paragraph of a letter leads to its page; the notice itself does that.
  const paragraphs = text.split(/\n{2,}/).slice(0, -1);
  const says = paragraphs
    .filter((one) => one !== subject)
    .join(" ")
    .replace(/\s+/g, " ");
  return { title: cut(subject, TITLE), body: cut(says, BODY), address, tag: name };
}

const cut = (text: string, most: number) => (text.length <= most ? text : `${text.slice(0, most - 1).trimEnd()}\u2026`);

/** The length is said by whoever sends. */
const textHeaders = (headers: Record<string, string | number>) =>
  Object.fromEntries(
    Object.entries(headers)
      .filter(([header]) => header.toLowerCase() !== "content-length")
      .map(([header, value]) => [header, String(value)]),
  );
