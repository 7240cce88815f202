import { createReadStream } from "node:fs";
import { mkdir, readdir, rename, stat, writeFile } from "node:fs/promises";
import { join, resolve } from "node:path";
import { Readable } from "node:stream";
import type { ReadableStream } from "node:stream/web";
import { againUnderLease } from "../database/lease.ts";
import { actingAs } from "../audit/actor.ts";
import { Account, Market } from "../database/models.ts";
import { Failure } from "../failure.ts";
import { log } from "../log.ts";
import { readSettings } from "../settings.ts";
import { told } from "../told.ts";
import { importSent, SENT } from "./sent.ts";

/** A file that was not written to for so long is whole (ms). */
const AT_REST = 2_000;
/** Files of one look. */
const AT_ONCE = 20;

/** Where files are laid, and what becomes of them: "inbox", and within it "done" and "refused". */
export const inboxFolder = () => resolve(readSettings().COMPASS_VAR, "inbox");

/**
 * Stores every file of bars in the inbox that is at rest: "tin.csv" or "tin 2024.csv" is of the market "tin". It goes
 * to "done" with its report, or to "refused" with the reason, each beside it as a text. Returns how many were taken.
 */
export async function takeInbox(now = Date.now()): Promise<number> {
  const folder = inboxFolder();
  await mkdir(join(folder, "done"), { recursive: true, mode: 0o700 });
  await mkdir(join(folder, "refused"), { recursive: true, mode: 0o700 });
  const names = (await readdir(folder)).filter((name) => /\.(csv|txt)$/i.test(name)).sort();
  let taken = 0;
  for (const name of names) {
    if (taken >= AT_ONCE) break;
    const path = join(folder, name);
    const { mtimeMs, isFile } = await stat(path).then(
      (found) => ({ mtimeMs: found.mtimeMs, isFile: found.isFile() }),
      () => ({ mtimeMs: now, isFile: false }),
    );
    if (!isFile || now - mtimeMs < AT_REST) continue;
    // One that cannot even be laid aside stays, and holds nobody else up.
    await takeFile(path, name).then(
      () => taken++,
      (error: unknown) => log.error({ name, error: String(error) }, "a file of the inbox could not be laid aside"),
    );
  }
  return taken;
}

async function takeFile(path: string, name: string): Promise<void> {
  const [where, says] = await store(path, name).then(
    (report) => ["done", JSON.stringify(report, null, 2)] as const,
    (error: unknown) => ["refused", reasonOf(error)] as const,
  );
  // Of two files of one name the first is kept, too.
  const own = `${new Date().toISOString().replace(/[:.]/g, "-")} ${shortened(name)}`;
  await writeFile(join(inboxFolder(), where, `${own}.report.txt`), `${says}\n`, { mode: 0o600 });
  await rename(path, join(inboxFolder(), where, own));
  log.info({ name, where }, "a file of the inbox was taken");
}

/** Bytes that a name has at most here: with when it was taken and what it is, a file system takes 255. */
const LONGEST_NAME = 200;

/** A name that leaves room for more: cut at its beginning, for its end says what it is. */
function shortened(name: string): string {
  let cut = name;
  while (Buffer.byteLength(cut) > LONGEST_NAME) cut = cut.slice(1);
  return cut;
}

async function store(path: string, name: string) {
  const market = await marketOf(name);
  const owner = await Account.findOne({
    where: { role: ["owner", "analyst"], closedAt: null },
    order: [["createdAt", "ASC"]],
  });
  if (!owner) throw new Failure("account", "Nobody works at this desk yet.", { remedy: "Make an account first." });
  const body = Readable.toWeb(createReadStream(path)) as ReadableStream<Uint8Array>;
  return actingAs(owner, () => importSent(market, body, name, SENT, owner.id));
}

/** The market whose id a file's name begins with; the longest of several. */
async function marketOf(name: string): Promise<string> {
  const plain = name.toLowerCase().replace(/\.[a-z]+$/, "");
  const markets = await Market.findAll({ attributes: ["id"], raw: true });
  const own = markets
    .map(({ id }) => id)
    .filter((id) => plain === id || plain.startsWith(`${id} `) || plain.startsWith(`${id}_`))
    .sort((a, b) => b.length - a.length);
  if (own[0] === undefined)
    throw new Failure("market", "No market's id begins this name.", {
      kept: "Nothing was stored.",
      remedy: "Name the file after its market, as in sable-tin.csv.",
    });
  return own[0];
}

function reasonOf(error: unknown): string {
  const {
    sentence,
    kept = "Nothing was stored.",
    remedy,
  } = told(error, "a file of the inbox was not stored").body.failure;
  return [sentence, kept, remedy].filter(Boolean).join(" ");
}

/** Looks into the inbox again and again. */
export const runInbox = (every = 2_000): (() => void) =>
  againUnderLease("inbox", async () => void (await takeInbox()), every, "the inbox could not be looked into");
