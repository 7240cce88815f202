import { mkdtempSync, readdirSync, readFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll } from "vitest";
import { forgetSettings } from "../../server/settings.ts";
import { startReceiver, type Receiver } from "./receiver.ts";

/** A message that was taken, as it lies in the folder. */
export interface Taken {
  path: string;
  headers: Record<string, string>;
  body: string;
}

/** What is told to programs and browsers in a file of tests goes to a stand-in of its own. */
export function withReceiver(): { receiver(): Receiver; taken(): Taken[]; addressOf(path: string): string } {
  const folder = mkdtempSync(join(tmpdir(), "received-"));
  let receiver: Receiver;
  beforeAll(async () => {
    receiver = await startReceiver(folder);
    process.env.COMPASS_HOOKS = receiver.host;
    forgetSettings();
  });
  afterAll(async () => {
    delete process.env.COMPASS_HOOKS;
    forgetSettings();
    await receiver.close();
  });
  return {
    receiver: () => receiver,
    taken: () =>
      readdirSync(folder)
        .sort()
        .map((name) => JSON.parse(readFileSync(join(folder, name), "utf8")) as Taken),
    addressOf: (path) => `http://${receiver.host}${path}`,
  };
}
