import { existsSync, readFileSync } from "node:fs";
import { closeDatabase, openDatabase, snapshot } from "../server/database/connection.ts";
import { checkCalls } from "../server/record/check.ts";
import type { ChainFile, RecordFile } from "../server/record/file.ts";
import { RECORD_FORMAT, recordFile } from "../server/record/file.ts";
import { isProofsFile, verifyProofs, type ProofsFile } from "../server/record/proofs.ts";
import { keptTails } from "../server/record/told/tails.ts";
import { verifyChain, verifyRecord, type Fault } from "../server/record/verify.ts";
import { DESKS, folderOf, openDesk, runningDatabase } from "./desk/desk.ts";
import { CommandFault, runCommand } from "./desk/timing.ts";

const USAGE =
  "./compass verify FILE|ADDRESS|demo|desk [KEPT]: a record.json, chain.json or edition.json, the address of a desk, " +
  "or a desk on this machine; KEPT is a chain.json from before.";

/** Larger than any record that is read at once. */
const LARGEST = 1024 * 1024 * 1024;

function readRecord(text: string, name: string): RecordFile | ChainFile {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new CommandFault(`${name} is no JSON.`);
  }
  const { format, keys, heads, entries } = (value ?? {}) as Partial<RecordFile>;
  const whole = String(format) === RECORD_FORMAT;
  if (
    (!whole && String(format) !== "even-compass-chain-2") ||
    typeof keys !== "object" ||
    !Array.isArray(heads) ||
    !Array.isArray(entries)
  )
    throw new CommandFault(`${name} is no record of Even Compass.`);
  if (
    whole &&
    (["editions", "pictures", "followUps", "notes"] as const).some(
      (part) => !Array.isArray((value as RecordFile)[part]),
    )
  )
    throw new CommandFault(`${name} is a record with parts missing.`);
  return value as RecordFile | ChainFile;
}

/** Parts of a chain that are asked for, one after the other. */
const MOST_PARTS = 10_000;

async function fetchChain(address: string): Promise<ChainFile> {
  let whole: ChainFile | undefined;
  for (let after: number | undefined = 0, parts = 0; after !== undefined && parts < MOST_PARTS; parts++) {
    const part = readRecord(await fetchPart(address, after), address) as ChainFile;
    whole = whole
      ? { ...part, heads: [...whole.heads, ...part.heads], entries: [...whole.entries, ...part.entries] }
      : part;
    after = part.next !== undefined && part.next > after ? part.next : undefined;
  }
  return whole!;
}

async function fetchPart(address: string, after: number): Promise<string> {
  const response = await fetch(new URL(`/record/chain.json?after=${after}`, address), {
    signal: AbortSignal.timeout(60_000),
    redirect: "error",
  }).catch((error: unknown) => {
    throw new CommandFault(`${address} does not answer: ${error instanceof Error ? error.message : String(error)}.`);
  });
  if (!response.ok) throw new CommandFault(`${address} answers with ${response.status}.`);
  if (Number(response.headers.get("Content-Length") ?? 0) > LARGEST)
    throw new CommandFault(`${address} sends too much.`);
  return response.text();
}

/** A record as it was read, with what was found of the bars that its calls were told, where those are at hand. */
interface Whole {
  file: RecordFile | ChainFile;
  ofCalls?: Fault[];
}

async function readDesk(name: "demo" | "desk"): Promise<Whole> {
  process.env.COMPASS_VAR = folderOf(name);
  const url = runningDatabase(name);
  const database = url ? undefined : await openDesk(name);
  process.env.COMPASS_DATABASE = url ?? database!.url;
  openDatabase(process.env.COMPASS_DATABASE);
  try {
    const tails = keptTails();
    return await snapshot(async () => {
      const file = await recordFile({ desk: true });
      return { file, ofCalls: await checkCalls(file, tails) };
    });
  } finally {
    await closeDatabase();
    await database?.stop();
  }
}

async function read(what: string): Promise<Whole> {
  if (/^https?:\/\//.test(what)) return { file: await fetchChain(what) };
  const desk = DESKS.find((name) => name === what);
  if (desk === "demo" || desk === "desk") return readDesk(desk);
  if (!existsSync(what)) throw new CommandFault(`There is no file ${what}.`);
  return { file: readRecord(readFileSync(what, "utf8"), what) };
}

/** The leaves of an edition a reader was given, where that is what the file holds. */
function readProofs(file: string): ProofsFile | undefined {
  try {
    const value: unknown = JSON.parse(readFileSync(file, "utf8"));
    return isProofsFile(value) ? value : undefined;
  } catch {
    return undefined;
  }
}

function sayProofs(proofs: ProofsFile, keptFile: string | undefined): void {
  const kept = keptFile === undefined ? undefined : readRecord(readFileSync(keptFile, "utf8"), keptFile);
  const faults = [...verifyProofs(proofs, kept?.entries), ...(kept ? verifyChain(kept) : [])];
  for (const fault of faults) process.stdout.write(`\u00d7 ${fault}\n`);
  if (faults.length > 0) throw new CommandFault("It does not hold.");
  const rest = kept ? "and the chain has it" : `compare its root with the chain: ${proofs.root}`;
  process.stdout.write(`${proofs.leaves.length} leaves of edition ${proofs.number} are proven; ${rest}.\n`);
}

/** What is proven, and what is not, in words. */
function holding(file: RecordFile | ChainFile, isWorkedOut: boolean): string {
  if (isWorkedOut)
    return (
      "Everything holds: every call was worked out again from the bars that it was told, and comes to what is " +
      "recorded."
    );
  if ("editions" in file)
    return (
      "Everything in the file holds: it is what was entered, in that order. Calls were not worked out again: the " +
      "bars they were told lie on the desk alone (./compass verify desk)."
    );
  return "The chain holds: its entries are what was sealed, in that order. What they are of is not in it.";
}

/** Checks a record from outside: the desk that keeps it need not be trusted, nor running. */
runCommand(async () => {
  const [what, keptFile] = process.argv.slice(2);
  if (!what) throw new CommandFault(USAGE);
  const proofs = existsSync(what) ? readProofs(what) : undefined;
  if (proofs) return sayProofs(proofs, keptFile);
  const kept = keptFile === undefined ? undefined : readRecord(readFileSync(keptFile, "utf8"), keptFile);
  const { file, ofCalls } = await read(what);
  // What was kept says whose signatures count: a record that was made anew brings keys of its own.
  const trusted = kept ? { ...file, keys: kept.keys } : file;
  const faults = [
    ...("editions" in trusted ? verifyRecord(trusted, kept?.heads) : verifyChain(trusted, kept?.heads)),
    ...(ofCalls ?? []),
  ];
  const last = file.entries.at(-1);
  const say = (line: string) => process.stdout.write(`${line}\n`);
  const parts =
    "editions" in file
      ? `${file.editions.length} editions with ${file.followUps.length} follow-ups and ${file.notes.length} notes`
      : "the chain alone";
  say(`${file.entries.length} entries, ${parts}`);
  const keys = [...new Set(file.entries.map(({ keyId }) => keyId))].join(", ");
  const hint = kept ? "" : " (compare it with what the desk prints on its pages)";
  if (last) say(`head ${last.sha256}\nkey  ${keys}${hint}`);
  for (const fault of faults) say(`\u00d7 ${fault}`);
  if (faults.length > 0)
    throw new CommandFault(`${faults.length === 1 ? "One thing does" : `${faults.length} things do`} not hold.`);
  say(holding(file, ofCalls !== undefined));
});
