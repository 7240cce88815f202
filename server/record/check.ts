import { snapshot } from "../database/connection.ts";
import { RecordEntry, RecordHead } from "../database/models.ts";
import { keepHeads } from "./heads.ts";
import { readEntries, recordFile, type RecordFile } from "./file.ts";
import { storedTold } from "./told/stored.ts";
import { keptTails, type Tail } from "./told/tails.ts";
import { verifyCalls, type Known } from "./told/verifyCalls.ts";
import { verifyRecord, type Fault } from "./verify.ts";

export interface RecordCheck {
  holds: boolean;
  faults: Fault[];
  /** Entries that were checked, the last one's digest, and when. */
  entries: number;
  head: string;
  at: number;
}

/**
 * How long a check of everything is taken for granted: at least so long (ms), and so many times as long as it took.
 * Reading it all again for every reader would be a way to stop the desk.
 */
const TRUSTED = 20_000;
const TIMES = 50;

let last: { key: string; check: RecordCheck; took: number } | undefined;
let underway: Promise<RecordCheck> | undefined;

/** The whole record checked from the first entry to the last; those who ask within moments share one check. */
export async function checkRecord(): Promise<RecordCheck> {
  const head = await RecordHead.findByPk(1, { raw: true });
  const key = `${head?.number} ${head?.sha256} ${await RecordEntry.count()}`;
  if (last?.key === key && Date.now() - last.check.at < Math.max(TRUSTED, TIMES * last.took)) return last.check;
  underway ??= check().finally(() => (underway = undefined));
  const began = Date.now();
  const done = await underway;
  last = { key, check: done, took: Date.now() - began };
  return done;
}

async function check(): Promise<RecordCheck> {
  // Read first: what is told meanwhile must not look as if it had been cut off.
  const tails = keptTails();
  const [file, head, ofCalls] = await snapshot(async () => {
    const all = await recordFile({ desk: true });
    return [all, await RecordHead.findByPk(1, { raw: true }), await checkCalls(all, tails, known)] as const;
  });
  const faults = [...verifyRecord(file), ...ofCalls];
  const end = file.entries.at(-1);
  if (head && (head.number !== (end?.number ?? 0) || (end && head.sha256 !== end.sha256)))
    faults.push("Where the record ends is told otherwise than it ends.");
  return { holds: faults.length === 0, faults, entries: file.entries.length, head: end?.sha256 ?? "", at: Date.now() };
}

/** Markets whose calls this process has worked out: a check costs what came since. */
const known: Known = new Map();

/** What calls came to, worked out again from the bars they were told as the open database has them. */
export async function checkCalls(
  file: RecordFile,
  tails: readonly Tail[],
  before: Known = new Map(),
): Promise<Fault[]> {
  const { desk } = file;
  return desk ? verifyCalls({ ...file, desk }, await storedTold(), tails, before) : [];
}

/** Keeps the heads that a crash between the database and the file left out. */
export async function catchUpHeads(): Promise<void> {
  keepHeads(await readEntries(), true);
}

export function forgetCheck(): void {
  last = undefined;
  known.clear();
}
