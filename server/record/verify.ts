import { isDeepStrictEqual } from "node:util";
import { asFollowUp } from "#core/scenarios/events";
import { termsOfFrozen } from "#core/written/read";
import {
  entrySha,
  GENESIS,
  outcomeDigest,
  partName,
  readPart,
  type PartKey,
  type ReadPart,
  type SealedEntry,
} from "./entry.ts";
import { digestOf } from "./digest.ts";
import type { ChainLink, DeskRecord, RecordFile } from "./file.ts";
import { wordsBySight } from "./foundWords.ts";
import { callsIn, calledIn, readFrozen, type FrozenCall, type FrozenContent } from "./frozenContent.ts";
import { headFault, type Head } from "./heads.ts";
import { isSigned, type PublicKeys } from "../signing.ts";
import { leavesOf } from "./leaves.ts";

/** What of the record is not what it was, in a sentence that names it. */
export type Fault = string;

/** A chain, or what of it somebody has: an entry with its part is named by it, a link by its number. */
export interface Chain {
  keys: PublicKeys;
  heads: readonly Head[];
  entries: readonly (SealedEntry | ChainLink)[];
}

const linkName = (entry: SealedEntry | ChainLink) =>
  "kind" in entry ? `Entry ${entry.number} (${partName(entry)})` : `Entry ${entry.number}`;

/**
 * Whether a chain is whole: its entries follow each other without a gap, each is what it was when it was sealed and
 * sealed by a key of this record, and it leads through every head that anybody kept, to the newest of them at least.
 */
export function verifyChain({ keys, heads, entries }: Chain, kept: readonly Head[] = []): Fault[] {
  const faults: Fault[] = [];
  let previous = GENESIS;
  entries.forEach((entry, i) => {
    const name = linkName(entry);
    if (entry.number !== i + 1) faults.push(`Entry ${i + 1} is missing: ${entry.number} stands in its place.`);
    // Of an early one anybody is told the digest and its signature alone; what it follows shows in the next.
    if (entry.format !== "closed") {
      if (entry.previous !== previous) faults.push(`${name} does not follow the one before.`);
      if (entrySha(entry) !== entry.sha256) faults.push(`${name} is not what was sealed.`);
    }
    if (!isSigned(entry.sha256, entry.signature, keys[entry.keyId]))
      faults.push(`${name} is not signed by a key of this record.`);
    previous = entry.sha256;
  });
  for (const head of [...heads, ...kept]) {
    const wrong = headFault(head, keys);
    if (wrong) faults.push(wrong);
    const entry = entries[head.number - 1];
    if (!entry)
      faults.push(`The record was cut short: it ends with entry ${entries.length}, and head ${head.number} was kept.`);
    else if (entry.sha256 !== head.sha256)
      faults.push(`${linkName(entry)} is another one than when its head was kept.`);
  }
  return [...new Set(faults)];
}

/**
 * Whether everything is what was entered: the chain, and every edition, picture, follow-up and note against it; with
 * what is the desk's own also what things are found by. What calls came to is worked out by `verifyCalls`.
 */
export function verifyRecord(file: RecordFile, kept: readonly Head[] = []): Fault[] {
  return [
    ...verifyChain(file, kept),
    ...verifyEditions(file),
    ...verifyParts(file),
    ...(file.desk ? [...verifyFound(file, file.desk), ...verifyGoesOn(file), ...unsealed(file.desk)] : []),
  ];
}

const keyOf = ({ kind, edition, scenarioId, sequence }: PartKey) => `${kind} ${edition} ${scenarioId} ${sequence}`;

function verifyEditions({ editions, entries, pictures, voices }: RecordFile): Fault[] {
  const faults: Fault[] = [];
  const known = new Map(entries.filter(({ kind }) => kind === "edition").map((entry) => [entry.edition, entry]));
  let previous = GENESIS;
  for (const { number, title, publishedAt, sha256: stated, previousSha256, canonical } of editions) {
    const name = `Edition ${number}`;
    const digest = digestOf(canonical);
    const content = readFrozen(canonical);
    if (digest !== stated) faults.push(`${name}: the text does not fit its hash.`);
    const entry = known.get(number);
    if (!entry) faults.push(`${name} was never entered in the record.`);
    else if (entry.digest !== digest) faults.push(`${name}: the text is not the one that was entered.`);
    if (content.number !== number) faults.push(`${name} says of itself that it is edition ${content.number}.`);
    if (content.previous !== previous || previousSha256 !== previous)
      faults.push(`${name} does not follow from the edition before.`);
    if (content.title !== title) faults.push(`${name}: the title in the list is not the one that was published.`);
    if (Date.parse(content.publishedAt ?? "") !== publishedAt)
      faults.push(`${name}: the list says it was published at another time.`);
    content.sections?.forEach(({ picture, pictures: views = {} }, section) => {
      // Early editions had one picture a section, without a name.
      for (const [view, frozen] of Object.entries<{ svg: string; png?: string }>(
        picture ? { "": picture, ...views } : views,
      )) {
        const stored = pictures.find(
          (one) => one.edition === number && one.section === section && (one.view ?? "") === view,
        );
        const which = view === "" ? "the picture" : `the picture "${view}"`;
        if (!stored) faults.push(`${name}: ${which} of section ${section + 1} is missing.`);
        else if (stored.svg !== frozen.svg || (stored.png ?? undefined) !== frozen.png)
          faults.push(`${name}: ${which} of section ${section + 1} is not the one that was published.`);
      }
    });
    // Record files of before there were recordings hold none of them, and no edition names one.
    for (const voice of content.voices ?? [])
      if (!voices?.some((one) => one.edition === number && one.sha256 === voice))
        faults.push(`${name}: what is said at a step is not what was published.`);
    previous = digest;
  }
  for (const { kind, edition } of entries)
    if (kind === "edition" && !editions.some(({ number }) => number === edition))
      faults.push(`Edition ${edition} was published and is gone.`);
  return faults;
}

/** What is stored of a part beside the text that was entered: where it is shown, or found. */
type Stored = Omit<ReadPart, "digest">;

function storedParts({ followUps, notes, desk }: RecordFile): Stored[] {
  return [
    ...followUps.map(({ event, ...of }): Stored => ({ kind: "followUp", ...of, content: asFollowUp(event) })),
    ...notes.map(({ note, ...of }): Stored => ({ kind: "note", ...of, content: note })),
    ...(desk?.restated ?? []).map(({ id, createdAt, ...content }): Stored => ({
      ...{ kind: "restated", edition: 0, scenarioId: id, sequence: 0, createdAt, content },
    })),
  ];
}

/** Every part that is no edition: the text that was entered, and what is stored of it, are the same. */
function verifyParts(file: RecordFile): Fault[] {
  const faults: Fault[] = [];
  const entries = new Map<string, SealedEntry>();
  for (const entry of file.entries) {
    if (entry.kind === "edition") continue;
    const name = capital(partName(entry));
    if (entries.has(keyOf(entry))) faults.push(`${name} was entered twice.`);
    entries.set(keyOf(entry), entry);
    if (entry.part === undefined) continue;
    const part = readPart(entry.part);
    if (part?.digest !== entry.digest) faults.push(`${name} is not what was entered.`);
    else if (keyOf(part) !== keyOf(entry)) faults.push(`${name} is found as another part than it is.`);
  }
  const seen = new Set<string>();
  for (const stored of storedParts(file)) {
    const name = capital(partName(stored));
    const entry = entries.get(keyOf(stored));
    seen.add(keyOf(stored));
    if (!entry) faults.push(`${name} was never entered in the record.`);
    else if (!isAsEntered(stored, entry)) faults.push(`${name} is not what was entered.`);
  }
  for (const entry of entries.values()) {
    // Told bars have pages of their own; what the desk alone knows is missing where readers are given the record.
    if (entry.kind === "bars" || (entry.kind === "restated" && !file.desk)) continue;
    if (!seen.has(keyOf(entry))) faults.push(`${capital(partName(entry))} was entered and is gone.`);
  }
  return faults;
}

function isAsEntered(stored: Stored, entry: SealedEntry): boolean {
  if (entry.part === undefined) return entry.digest === outcomeDigest(stored);
  const part = readPart(entry.part);
  const own: unknown = JSON.parse(JSON.stringify(stored.content));
  return part !== undefined && isDeepStrictEqual(part.content, own) && part.createdAt === stored.createdAt;
}

/** Whether every column by which an edition is found says what the edition says. */
function verifyFound({ editions }: RecordFile, { found }: DeskRecord): Fault[] {
  const faults: Fault[] = [];
  for (const { number, canonical } of editions) {
    const name = `Edition ${number}`;
    const row = found.find((one) => one.number === number);
    const content = readFrozen(canonical);
    if (!row) continue;
    if (row.corrects !== (content.corrects?.number ?? null))
      faults.push(`${name}: the list says otherwise which edition it corrects or takes back.`);
    if (leavesOf(canonical) && row.kind !== content.kind) faults.push(`${name}: the list says it is of another kind.`);
    if (row.marketTime !== null && row.marketTime !== Date.parse(content.marketTime ?? ""))
      faults.push(`${name}: the list says it is of another market time.`);
    if (content.closesAt !== undefined && row.closesAt !== Date.parse(content.closesAt))
      faults.push(`${name}: the list says its markets close at another time.`);
    const markets = new Set((content.sections ?? []).map(({ market }) => market?.id ?? ""));
    if (!isDeepStrictEqual(new Set(row.markets), markets))
      faults.push(`${name} is found by other markets than it speaks of.`);
    const leaves = leavesOf(canonical);
    if (leaves && !isDeepStrictEqual(sorted(row.words), sorted(Object.fromEntries(wordsBySight(leaves)))))
      faults.push(`${name} is found by other words than it holds.`);
  }
  return faults;
}

/** Words as they are compared: keys of a canonical text have another order than they were written in. */
const sorted = (words: Readonly<Record<string, string>>) =>
  Object.fromEntries(Object.entries(words).map(([see, text]) => [see, text.split("\n").sort()]));

/** Whether each call that goes on with one of before is that one, word for word. */
function verifyGoesOn({ editions }: RecordFile): Fault[] {
  const faults: Fault[] = [];
  const calls = new Map<number, Map<string, FrozenCall>>();
  for (const { number, canonical } of editions) {
    const own = callsIn(readFrozen(canonical) as FrozenContent);
    calls.set(number, own);
    for (const [id, call] of own) {
      const first = calledIn(call);
      if (first === undefined) continue;
      // Editions come in their order: one that is named before it stands names none.
      const before = calls.get(first)?.get(id);
      const isSame =
        before !== undefined &&
        calledIn(before) === undefined &&
        isDeepStrictEqual(termsOfFrozen(before.scenario), termsOfFrozen(call.scenario));
      if (!isSame)
        faults.push(
          `Scenario ${id.slice(0, 8)} of edition ${number} is not the call of edition ${first} that it goes on with.`,
        );
    }
  }
  return faults;
}

const unsealed = ({ unsealed: rows }: DeskRecord): Fault[] =>
  rows.map((row) => `A row says what the desk did not write: ${row}.`);

function capital(text: string): string {
  return text[0].toUpperCase() + text.slice(1);
}
