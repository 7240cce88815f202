import type { AddressInfo } from "node:net";
import { simpleParser } from "mailparser";
import { SMTPServer } from "smtp-server";
import { audit } from "../audit/audit.ts";
import { Account } from "../database/models.ts";
import { log } from "../log.ts";
import { choicesOf, saveChoices } from "../readers/choices.ts";
import { readSettings } from "../settings.ts";
import { accountOfReturn } from "./returnPath.ts";

/** What a mail that came back says. */
export interface Returned {
  /** It will never be delivered there; whoever got it calls it unwanted; or neither, as of one that is only late. */
  what: "failed" | "complained" | "other";
  /** The other side's reason, where it gave one. */
  why: string;
}

/** Largest mail that is taken back (bytes): a report holds what it is of at most. */
const LARGEST = 10_000_000;

/**
 * Reads a report on a mail: one on its delivery (RFC 3464) is of a failure for good where an action has failed with a
 * status of class 5; one of feedback (RFC 5965) is a complaint where it is of abuse.
 */
export async function readReturned(source: string | Buffer): Promise<Returned> {
  const { attachments } = await simpleParser(source, { keepDeliveryStatus: true });
  const partOf = (type: string) =>
    attachments.find(({ contentType }) => contentType === type)?.content.toString("utf8", 0, 100_000) ?? "";
  const delivery = partOf("message/delivery-status");
  // A report has a block of its own for each address.
  const failed = delivery
    .split(/\r?\n\s*\r?\n/)
    .find((block) => fieldOf(block, "Action").toLowerCase() === "failed" && /^5\./.test(fieldOf(block, "Status")));
  if (failed !== undefined)
    return { what: "failed", why: fieldOf(failed, "Diagnostic-Code") || fieldOf(failed, "Status") };
  const type = fieldOf(partOf("message/feedback-report"), "Feedback-Type").toLowerCase();
  return type === "abuse" ? { what: "complained", why: type } : { what: "other", why: type || "no report" };
}

/** A field of a block of fields, its lines put together. */
function fieldOf(block: string, name: string): string {
  const [, value = ""] = new RegExp(`^${name}:[ \\t]*((?:.*)(?:\\r?\\n[ \\t].*)*)`, "im").exec(block) ?? [];
  return value.replace(/\s+/g, " ").trim();
}

/** Takes a mail that came back: who does not get or want it is sent no more until they choose it again. */
export async function takeReturned(accountId: string, source: string | Buffer): Promise<Returned["what"]> {
  const { what, why } = await readReturned(source);
  const account = await Account.findByPk(accountId, { attributes: ["id", "email"] });
  if (what === "other" || !account) return "other";
  const choices = await choicesOf(accountId);
  if (choices.mail) {
    await saveChoices(accountId, { ...choices, mail: false, ended: what });
    await audit({ what: "mail ended", subject: `${account.email}: ${what}, ${why}`.slice(0, 200) });
  }
  return what;
}

/**
 * Listens for mail that comes back, where the desk is told to (`COMPASS_RETURNS`, host:port). Only addresses this desk
 * has made are taken; resolves to how it is ended.
 */
export function listenForReturns(host: string, port: number): Promise<{ port: number; close(): Promise<void> }> {
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ["STARTTLS", "AUTH"],
    size: LARGEST,
    logger: false,
    onRcptTo: ({ address }, _session, answer) =>
      accountOfReturn(address)
        ? answer()
        : answer(Object.assign(new Error("There is no such mailbox"), { responseCode: 550 })),
    onData(stream, { envelope }, answer) {
      const parts: Buffer[] = [];
      stream.on("data", (part: Buffer) => parts.push(part));
      stream.on("end", () => {
        if (stream.sizeExceeded) return answer(Object.assign(new Error("It is too large"), { responseCode: 552 }));
        const accounts = envelope.rcptTo.flatMap(({ address }) => accountOfReturn(address) ?? []);
        Promise.all(accounts.map((id) => takeReturned(id, Buffer.concat(parts)))).then(
          () => answer(),
          (error: unknown) => {
            log.error({ error: String(error) }, "mail that came back could not be taken");
            answer(Object.assign(new Error("Try again later"), { responseCode: 451 }));
          },
        );
      });
    },
  });
  // A client that goes away in the middle is no fault of ours.
  server.on("error", () => {});
  return new Promise((ready, fail) => {
    server.server.once("error", fail);
    server.listen(port, host, () =>
      ready({
        port: (server.server.address() as AddressInfo).port,
        close: () => new Promise((done) => server.close(() => done())),
      }),
    );
  });
}

/** Listens while the process runs; the port is another's where several do, and that one's mail is everybody's. */
export function runReturns(): () => void {
  const address = readSettings().COMPASS_RETURNS;
  if (!address) return () => {};
  const { hostname, port } = new URL(`smtp://${address}`);
  const listening = listenForReturns(hostname, Number(port)).catch((error: unknown) => {
    log.warn({ error: String(error) }, "nobody listens here for mail that comes back");
    return undefined;
  });
  return () => void listening.then((one) => one?.close());
}
