import { randomUUID } from "node:crypto";
import { createWriteStream } from "node:fs";
import { mkdir, readdir, rm, stat, writeFile, readFile } from "node:fs/promises";
import { join, resolve } from "node:path";
import { Readable, Transform } from "node:stream";
import { pipeline } from "node:stream/promises";
import type { ReadableStream } from "node:stream/web";
import { LARGEST_FILE } from "#contracts/market";
import { Failure, notFound } from "../failure.ts";
import { readSettings } from "../settings.ts";

const KEPT_FOR = 24 * 3_600_000;

export interface Upload {
  id: string;
  path: string;
  name: string;
}

function folder(): string {
  return resolve(readSettings().COMPASS_VAR, "uploads");
}

/** Takes a file in as it comes, never whole in memory; refuses it when it grows past the limit. */
export async function takeUpload(
  body: ReadableStream<Uint8Array> | null,
  name: string,
  accountId: string,
): Promise<string> {
  if (!body) throw new Failure("empty", "No file was sent.");
  await mkdir(folder(), { recursive: true, mode: 0o700 });
  await removeOld();
  await checkRoom(accountId);
  const id = randomUUID();
  const path = join(folder(), `${id}.csv`);
  let size = 0;
  const measure = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      size += chunk.length;
      // A file a little too large is read to its end and dropped: only then does a browser listen to the answer.
      if (size <= LARGEST_FILE) done(null, chunk);
      else done(size > 4 * LARGEST_FILE ? tooLarge() : null);
    },
  });
  try {
    await pipeline(Readable.fromWeb(body), measure, createWriteStream(path, { mode: 0o600 }));
    if (size > LARGEST_FILE) throw tooLarge();
    if (size === 0) throw new Failure("empty", "The file is empty.");
    await writeFile(join(folder(), `${id}.json`), JSON.stringify({ name: cleanName(name), accountId }), {
      mode: 0o600,
    });
  } catch (error) {
    await rm(path, { force: true });
    throw error;
  }
  return id;
}

/** Files of one account that wait for a yes, and the bytes of all of them together. */
const MOST_WAITING = 12;
const MOST_BYTES = 1024 * 1024 * 1024;

async function checkRoom(accountId: string): Promise<void> {
  let [own, bytes] = [0, 0];
  for (const name of await readdir(folder())) {
    const path = join(folder(), name);
    if (name.endsWith(".csv")) bytes += (await stat(path).catch(() => undefined))?.size ?? 0;
    else if (
      name.endsWith(".json") &&
      (await readFile(path, "utf8").catch(() => "")).includes(`"accountId":"${accountId}"`)
    )
      own++;
  }
  if (own >= MOST_WAITING || bytes >= MOST_BYTES)
    throw new Failure("many", "Too many files are waiting to be confirmed.", {
      status: 429,
      kept: "Nothing was stored.",
      remedy: "Confirm or leave those you chose before; they go by themselves after a day.",
    });
}

function tooLarge(): Failure {
  return new Failure("too-large", `The file is larger than ${LARGEST_FILE / 1024 / 1024} MB.`, {
    status: 413,
    kept: "Nothing was stored.",
    remedy: "Split it by year; later files extend the market.",
  });
}

function cleanName(name: string): string {
  return (
    name
      // eslint-disable-next-line no-control-regex -- a name from elsewhere is shown to a person
      .replace(/[\u0000-\u001f\u007f/\\]/g, "")
      .trim()
      .slice(0, 200) || "bars.csv"
  );
}

export async function findUpload(id: string, accountId: string): Promise<Upload> {
  if (!/^[0-9a-f-]{36}$/.test(id)) throw notFound("upload");
  try {
    const meta = JSON.parse(await readFile(join(folder(), `${id}.json`), "utf8")) as {
      name: string;
      accountId: string;
    };
    if (meta.accountId === accountId) return { id, name: meta.name, path: join(folder(), `${id}.csv`) };
  } catch {
    // No such file, or one that was cleared away: told the same way.
  }
  throw new Failure("gone", "The file is no longer here.", {
    status: 404,
    remedy: "Choose it again; nothing was stored.",
  });
}

export async function dropUpload({ id }: Upload): Promise<void> {
  await Promise.all([".csv", ".json"].map((ending) => rm(join(folder(), `${id}${ending}`), { force: true })));
}

async function removeOld(): Promise<void> {
  for (const name of await readdir(folder())) {
    const path = join(folder(), name);
    const found = await stat(path).catch(() => undefined);
    if (found && Date.now() - found.mtimeMs > KEPT_FOR) await rm(path, { force: true });
  }
}
