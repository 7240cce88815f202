import { mkdtempSync, readdirSync, readFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll } from "vitest";
import { startMailbox, type Mailbox } from "./mailbox.ts";
import { forgetLetters } from "../../server/delivery/compose.ts";
import { closeMail } from "../../server/delivery/send.ts";
import { forgetSettings } from "../../server/settings.ts";

/** Mail of a file of tests goes to a mailbox of its own, in a folder; every mail that lies there, as it was sent. */
export function withMailbox(): { folder: string; mails(): string[] } {
  const folder = mkdtempSync(join(tmpdir(), "mailbox-"));
  let mailbox: Mailbox;
  beforeAll(async () => {
    forgetLetters();
    mailbox = await startMailbox(folder);
    process.env.COMPASS_SMTP = mailbox.url;
    forgetSettings();
  });
  afterAll(async () => {
    closeMail();
    forgetLetters();
    delete process.env.COMPASS_SMTP;
    forgetSettings();
    await mailbox.close();
  });
  return { folder, mails: () => readdirSync(folder).map((name) => readFileSync(join(folder, name), "utf8")) };
}
