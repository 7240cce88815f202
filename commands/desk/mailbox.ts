import { randomUUID } from "node:crypto";
import { createWriteStream, mkdirSync, renameSync } from "node:fs";
import type { AddressInfo } from "node:net";
import { join } from "node:path";
import { pipeline } from "node:stream/promises";
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
 * Addresses that begin with "bounce" are refused for good, those that begin with "later" are put off.
 */
export async function startMailbox(folder: string, port = 0): Promise<Mailbox> {
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
    onData(stream, _session, answer) {
      // The name begins with the time, so that a list of the folder is in their order; whole or not there at all.
      const name = `${new Date().toISOString().replace(/[:.]/g, "-")}-${randomUUID()}`;
      const part = join(folder, `${name}.part`);
      pipeline(stream, createWriteStream(part, { mode: 0o600 })).then(
        () => {
          renameSync(part, join(folder, `${name}.eml`));
          answer();
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
