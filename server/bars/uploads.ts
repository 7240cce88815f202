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
  /** The file it was taken out of, where that held several markets. */
  partOf?: string;
}

/** What is kept of a file beside its bytes. */
interface Kept {
  name: string;
  accountId: string;
  partOf?: string;
}

export const uploadFolder = folder;

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
    await keep(id, { name: cleanName(name), accountId });
  } catch (error) {
    await rm(path, { force: true });
    throw error;
  }
  return id;
}

const keep = (id: string, kept: Kept) => writeFile(join(folder(), `${id}.json`), JSON.stringify(kept), { mode: 0o600 });

/** Keeps a file that was taken out of another one and lies there already, for whoever sent the whole. */
export async function keepPart(id: string, name: string, whole: Upload): Promise<void> {
  const { accountId } = await keptOf(whole.id);
  await keep(id, { name: cleanName(name), accountId, partOf: whole.partOf ?? whole.id });
}

/** Other files that were taken out of the same one and still wait, by their names. */
export async function partsBeside({ id, partOf }: Upload, accountId: string): Promise<{ id: string; name: string }[]> {
  if (partOf === undefined) return [];
  const all = (await readdir(folder())).filter((name) => name.endsWith(".json")).map((name) => name.slice(0, -5));
  const kept = await Promise.all(all.map(async (one) => ({ id: one, ...(await keptOf(one).catch(() => NOTHING)) })));
  return kept
    .filter((one) => one.partOf === partOf && one.id !== id && one.accountId === accountId)
    .map(({ id: part, name }) => ({ id: part, name }))
    .sort((a, b) => a.name.localeCompare(b.name));
}

const NOTHING: Kept = { name: "", accountId: "" };

const keptOf = async (id: string) => JSON.parse(await readFile(join(folder(), `${id}.json`), "utf8")) as Kept;

/** Files of one account that wait for a yes, and the bytes of all of them together. */
const MOST_WAITING = 12;
const MOST_BYTES = 1024 * 1024 * 1024;

async function checkRoom(accountId: string): Promise<void> {
  let bytes = 0;
  // The parts of one file are one that waits.
  const own = new Set<string>();
  for (const name of await readdir(folder())) {
    const path = join(folder(), name);
    if (name.endsWith(".csv")) bytes += (await stat(path).catch(() => undefined))?.size ?? 0;
    else if (name.endsWith(".json")) {
      const kept = await keptOf(name.slice(0, -5)).catch(() => NOTHING);
      if (kept.accountId === accountId) own.add(kept.partOf ?? name);
    }
  }
  if (own.size >= MOST_WAITING || bytes >= MOST_BYTES)
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
    const { name, accountId: owner, partOf } = await keptOf(id);
    const path = join(folder(), `${id}.csv`);
    if (owner === accountId) return { id, name, path, ...(partOf === undefined ? {} : { partOf }) };
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
