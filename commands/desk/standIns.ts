import { writeFileSync } from "node:fs";
import { join } from "node:path";
import { startMailbox } from "./mailbox.ts";
import { freePort } from "./ports.ts";
import { startReceiver } from "./receiver.ts";

export interface StandIns {
  close(): Promise<void>;
}

/**
 * Stand-ins for the world's mail and for readers' programs, of an invented world alone; where the environment names the
 * real ones, these are taken.
 */
export async function startStandIns(folder: string): Promise<StandIns> {
  const running: StandIns[] = [];
  if (process.env.COMPASS_SMTP === undefined) {
    process.env.COMPASS_RETURNS ??= `127.0.0.1:${await freePort(4_710)}`;
    const mailbox = await startMailbox(join(folder, "mailbox"), 0, process.env.COMPASS_RETURNS);
    process.env.COMPASS_SMTP = mailbox.url;
    running.push(mailbox);
  }
  if (process.env.COMPASS_HOOKS === undefined) {
    const receiver = await startReceiver(join(folder, "received"));
    process.env.COMPASS_HOOKS = receiver.host;
    writeFileSync(join(folder, "browser.json"), JSON.stringify(receiver.browser), { mode: 0o600 });
    running.push(receiver);
  }
  return {
    close: async () => {
      for (const one of running) await one.close();
    },
  };
}
