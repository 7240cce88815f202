import { existsSync, renameSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { RecordEntry } from "../database/models.ts";
import { Failure } from "../failure.ts";
import { publicKeys, recordFolder } from "../signing.ts";
import { linkOf, readEntries, type ChainFile } from "./file.ts";
import { keptHeads } from "./heads.ts";

/** Entries of one part of the chain as it is given out. */
export const CHAIN_PART = 1_000;

/** The part of the chain behind an entry: a file that is never made again where the part is full, or its text. */
export async function chainPart(after: number): Promise<{ file: string } | { text: string }> {
  if (!Number.isInteger(after) || after < 0 || after % CHAIN_PART !== 0)
    throw new Failure("after", `"after" is a multiple of ${CHAIN_PART}: the parts of the chain begin there.`, {
      status: 400,
      remedy: 'Begin with 0 and go on with what "next" says.',
    });
  const file = join(recordFolder(), `chain-${after}.json`);
  if (existsSync(file)) return { file };
  const text = JSON.stringify(await chainFile(after, CHAIN_PART));
  const isFull = ((await RecordEntry.max<number | null, RecordEntry>("number")) ?? 0) > after + CHAIN_PART;
  if (!isFull) return { text };
  const part = `${file}.${process.pid}`;
  writeFileSync(part, text, { mode: 0o600 });
  renameSync(part, file);
  return { file };
}

/** Entries behind one, with their heads; all of them where no number is said. */
export async function chainFile(after = 0, most?: number): Promise<ChainFile> {
  // Heads are read first: what is entered meanwhile must not look as if it had been cut off.
  const heads = keptHeads();
  const entries = (await readEntries(after, most)).map(linkOf);
  const last = entries.at(-1)?.number ?? after;
  const hasMore = most !== undefined && entries.length === most && (await RecordEntry.count()) > last;
  return {
    format: "even-compass-chain-2",
    keys: publicKeys(),
    heads: heads.filter(({ number }) => number > after && number <= last),
    entries,
    ...(hasMore ? { next: last } : {}),
  };
}
