import { randomUUID } from "node:crypto";
import { createWriteStream, mkdirSync, renameSync } from "node:fs";
import type { AddressInfo } from "node:net";
import { join } from "node:path";
import { pipeline } from "node:stream/promises";
import { createTransport } from "nodemailer";
import { SMTPServer } from "smtp-server";

/** Largest mail that is taken (bytes). */
const LARGEST = 20_000_000;

export interface Mailbox {
  /** smtp://127.0.0.1:port */
  url: string;
  close(): Promise<void>;
}

/**
 * A stand-in for the world's mail: takes whatever it is handed on loopback and keeps it, a file a message, in a folder.
 * Addresses that begin with "bounce" are refused for good, those that begin with "later" are put off, and what was for
 * those that begin with "moved" comes back (`returns`, host:port).
 */
export async function startMailbox(folder: string, port = 0, returns?: string): Promise<Mailbox> {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ["STARTTLS", "AUTH"],
    size: LARGEST,
    logger: false,
    onRcptTo({ address }, _session, answer) {
      const refused = (responseCode: number, text: string) => answer(Object.assign(new Error(text), { responseCode }));
      if (address.startsWith("bounce")) return refused(550, "There is no such mailbox");
      if (address.startsWith("later")) return refused(451, "Try again later");
      answer();
    },
    onData(stream, { envelope }, answer) {
      // The name begins with the time, so that a list of the folder is in their order; whole or not there at all.
      const name = `${new Date().toISOString().replace(/[:.]/g, "-")}-${randomUUID()}`;
      const part = join(folder, `${name}.part`);
      pipeline(stream, createWriteStream(part, { mode: 0o600 })).then(
        () => {
          renameSync(part, join(folder, `${name}.eml`));
          answer();
          const from = envelope.mailFrom ? envelope.mailFrom.address : "";
          const gone = envelope.rcptTo.find(({ address }) => address.startsWith("moved"));
          if (returns && from && gone) void giveBack(returns, from, gone.address);
        },
        (error: unknown) => answer(error as Error),
      );
    },
  });
  // A client that goes away in the middle is no fault of ours.
  server.on("error", () => {});
  await new Promise<void>((ready, fail) => {
    server.server.once("error", fail);
    server.listen(port, "127.0.0.1", ready);
  });
  const { port: own } = server.server.address() as AddressInfo;
  return { url: `smtp://127.0.0.1:${own}`, close: () => new Promise((done) => server.close(() => done())) };
}

/** Tells where a mail came from that it was not delivered after all, as RFC 3464 says. */
async function giveBack(returns: string, from: string, to: string): Promise<void> {
  const [host, port] = returns.split(":");
  const transport = createTransport({ host, port: Number(port), secure: false, ignoreTLS: true });
  const raw = reportOn(from, to, "failed", "5.1.6", "550 The mailbox has moved");
  await transport.sendMail({ envelope: { from: "", to: from }, raw }).catch(() => undefined);
  transport.close();
}

/** A report on the delivery of a mail. */
export function reportOn(from: string, to: string, action: string, status: string, diagnostic: string): string {
  return [
    "From: Mail system <postmaster@mailbox.example>",
    `To: <${from}>`,
    "Subject: Undelivered mail",
    "MIME-Version: 1.0",
    'Content-Type: multipart/report; report-type=delivery-status; boundary="part"',
    "",
    "--part",
    "Content-Type: text/plain",
    "",
    "Your mail could not be delivered.",
    "",
    "--part",
    "Content-Type: message/delivery-status",
    "",
    "Reporting-MTA: dns; mailbox.example",
    "",
    `Final-Recipient: rfc822; ${to}`,
    `Action: ${action}`,
    `Status: ${status}`,
    `Diagnostic-Code: smtp; ${diagnostic}`,
    "",
    "--part--",
    "",
  ].join("\r\n");
}
