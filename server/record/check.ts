import { snapshot } from "../database/connection.ts";
import { RecordEntry, RecordHead } from "../database/models.ts";
import { keepHeads } from "./heads.ts";
import { readEntries, recordFile } from "./file.ts";
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
  const [file, head] = await snapshot(
    async () => [await recordFile({ followed: true }), await RecordHead.findByPk(1, { raw: true })] as const,
  );
  const faults = verifyRecord(file);
  const end = file.entries.at(-1);
  if (head && (head.number !== (end?.number ?? 0) || (end && head.sha256 !== end.sha256)))
    faults.push("Where the record ends is told otherwise than it ends.");
  return { holds: faults.length === 0, faults, entries: file.entries.length, head: end?.sha256 ?? "", at: Date.now() };
}

/** Keeps the heads that a crash between the database and the file left out. */
export async function catchUpHeads(): Promise<void> {
  keepHeads(await readEntries(), true);
}

export function forgetCheck(): void {
  last = undefined;
}
