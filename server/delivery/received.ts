import { readdir, readFile } from "node:fs/promises";
import { join, resolve } from "node:path";
import { readSettings } from "../settings.ts";

/** A message that the stand-in for readers' programs has taken. */
export interface Received {
  id: string;
  path: string;
  at: number;
  headers: [name: string, value: string][];
  body: string;
}

/** Headers that say something of a message. */
const SHOWN = /^(webhook-.*|ttl|urgency|topic)$/;

/** Messages that are listed: the newest. */
const MOST = 40;

interface Taken {
  path: string;
  at: number;
  body: string;
  headers: Record<string, string | string[] | undefined>;
}

/** The newest messages that were taken by the stand-in for readers' programs, the newest first. */
export async function messagesReceived(): Promise<Received[]> {
  const folder = resolve(readSettings().COMPASS_VAR, "received");
  const names = (await readdir(folder).catch(() => [])).filter((name) => name.endsWith(".json"));
  const newest = names.sort().reverse().slice(0, MOST);
  return Promise.all(
    newest.map(async (name): Promise<Received> => {
      const { path, at, body, headers } = JSON.parse(await readFile(join(folder, name), "utf8")) as Taken;
      const shown = Object.entries(headers).filter(([header]) => SHOWN.test(header));
      return {
        id: name.slice(0, -5),
        path,
        at,
        body,
        headers: shown.map(([header, value]) => [header, String(value)]),
      };
    }),
  );
}

/** How the stand-in for a browser is notified; `undefined` where there is none. */
export async function standInDevice(): Promise<unknown> {
  const file = resolve(readSettings().COMPASS_VAR, "browser.json");
  if (!readSettings().COMPASS_HOOKS) return undefined;
  return JSON.parse(await readFile(file, "utf8").catch(() => "null")) ?? undefined;
}
