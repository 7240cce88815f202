import { createHash, createPublicKey, verify } from "node:crypto";
import { readFileSync } from "node:fs";
import { inflateRawSync } from "node:zlib";
import { describe, expect, it } from "vitest";
import { withRecord } from "../recordTesting.ts";
import { recordFile } from "./file.ts";
import { chainFile } from "./chain.ts";

// A second verifier, written from docs/record.md alone: of the desk's own code it is given files, and nothing else.

type Json = null | boolean | number | string | Json[] | { [name: string]: Json };

/** RFC 8785, sections 3.2.2 and 3.2.3: keys by UTF-16 units, numbers and texts as ECMAScript writes them. */
function canonical(value: Json): string {
  if (Array.isArray(value)) return `[${value.map(canonical).join(",")}]`;
  if (typeof value !== "object" || value === null) return JSON.stringify(value);
  const names = Object.keys(value).sort();
  return `{${names.map((name) => `${JSON.stringify(name)}:${canonical(value[name])}`).join(",")}}`;
}

const digest = (...parts: (string | Uint8Array)[]) => {
  const hash = createHash("sha256");
  for (const part of parts) hash.update(part);
  return hash.digest();
};
const hex = (...parts: (string | Uint8Array)[]) => digest(...parts).toString("hex");

type Fields = Record<string, Json>;

function isSigned(text: string, signature: Json, raw: string | undefined): boolean {
  if (raw === undefined) return false;
  const x = Buffer.from(raw, "base64").toString("base64url");
  const key = createPublicKey({ key: { kty: "OKP", crv: "Ed25519", x }, format: "jwk" });
  return verify(null, Buffer.from(text, "ascii"), key, Buffer.from(String(signature), "base64"));
}

/** The root over the leaves of a text. */
function rootOf(text: string): string {
  const { format, leaves } = JSON.parse(text) as { format: string; leaves: Fields[] };
  if (format !== "even-compass-edition-3" || canonical({ format, leaves }) !== text) return "no text";
  const hashes = leaves.map(({ content, path, salt, see }) =>
    digest(Uint8Array.of(0), canonical({ content, path, salt, see })),
  );
  const tree = (from: number, to: number): Buffer => {
    if (to - from === 1) return hashes[from];
    const left = 2 ** Math.floor(Math.log2(to - from - 1));
    return digest(Uint8Array.of(1), tree(from, from + left), tree(from + left, to));
  };
  return tree(0, hashes.length).toString("hex");
}

/** What the leaves of a text say together. */
function whole(text: string): Fields {
  const { leaves } = JSON.parse(text) as { leaves: { path: string; content: Json }[] };
  const sorted = [...leaves].sort((a, b) => a.path.split("/").length - b.path.split("/").length);
  const root = structuredClone(sorted[0].content) as Fields;
  for (const { path, content } of sorted.slice(1)) {
    const steps = path.split("/");
    const last = steps.pop() ?? "";
    const holder = steps.reduce<Json>((at, step) => (at as Fields)[step], root) as Fields;
    holder[last] = structuredClone(content);
  }
  return root;
}

function chainFaults({ keys, entries, heads }: { keys: Record<string, string>; entries: Fields[]; heads: Fields[] }) {
  const faults: string[] = [];
  let previous = "0".repeat(64);
  entries.forEach((entry, i) => {
    const { number, at, digest: of, keyId, signature } = entry;
    const sealed = canonical({ format: "even-compass-entry-2", number, digest: of, at, previous: entry.previous });
    if (number !== i + 1 || entry.previous !== previous) faults.push(`${i + 1} is out of its place`);
    if (hex(sealed) !== entry.sha256) faults.push(`${i + 1} is another`);
    if (!isSigned(String(entry.sha256), signature, keys[String(keyId)])) faults.push(`${i + 1} is not signed`);
    previous = String(entry.sha256);
  });
  for (const head of heads) {
    const { signature, ...said } = head.stamp as Fields;
    if (head.sha256 !== entries[Number(head.number) - 1]?.sha256) faults.push(`head ${String(head.number)}`);
    if (said.imprint !== hex(String(head.signature)) || !isSigned(canonical(said), signature, keys[String(said.keyId)]))
      faults.push(`stamp ${String(head.number)}`);
  }
  return faults;
}

function recordFaults(file: Fields): string[] {
  const { keys, entries, heads } = file as unknown as Parameters<typeof chainFaults>[0];
  const faults = chainFaults({ keys, entries, heads });
  for (const { number, canonical: text } of file.editions as Fields[]) {
    const entry = entries.find((one) => one.kind === "edition" && one.edition === number);
    if (entry?.digest !== rootOf(String(text)) || whole(String(text)).number !== number)
      faults.push(`edition ${String(number)}`);
  }
  const outcomes = [...(file.followUps as Fields[]), ...(file.notes as Fields[])];
  for (const { kind, edition, scenarioId, sequence, digest: root, part } of entries) {
    if (part === undefined) continue;
    const { part: is, of } = whole(String(part)) as { part: Json; of: Fields };
    const name = `${String(kind)} ${String(sequence)}`;
    if (rootOf(String(part)) !== root || is !== kind) faults.push(name);
    if (of.edition !== edition || of.scenarioId !== scenarioId || of.sequence !== sequence)
      faults.push(`${name} found`);
    if (kind !== "followUp" && kind !== "note") continue;
    const stored = outcomes.find(
      (one) =>
        (kind === "followUp" ? "event" in one : "note" in one) &&
        one.edition === edition &&
        one.scenarioId === scenarioId &&
        one.sequence === sequence,
    );
    if (canonical(stored?.event ?? stored?.note ?? null) !== canonical(of.content)) faults.push(`${name} stored`);
  }
  return faults;
}

const vectors = JSON.parse(readFileSync("docs/record-vectors.json", "utf8")) as {
  [name: string]: never;
} & { keys: Record<string, string>; entries: Fields[]; head: Fields; page: Fields; packed: string } & Record<
    "edition" | "part" | "barsPart",
    string
  > & { firstLeaf: { hashed: string } };

withRecord();

describe("a verifier written from the page on the record", () => {
  it("finds the worked examples to be what the page says, byte by byte", () => {
    const { keys, entries, head, page, packed, edition, part, barsPart, firstLeaf } = vectors;
    for (const [id, raw] of Object.entries(keys)) expect(hex(Buffer.from(raw, "base64")).slice(0, 16)).toBe(id);
    expect([edition, part, barsPart].map(rootOf)).toEqual(entries.map((entry) => entry.digest));
    expect(chainFaults({ keys, entries, heads: [head] })).toEqual([]);
    const [{ content, path, salt, see }] = (JSON.parse(edition) as { leaves: Fields[] }).leaves;
    expect(canonical({ content, path, salt, see })).toBe(firstLeaf.hashed);
    expect(whole(edition).blocks).toEqual([
      { kind: "words", words: "The base holds." },
      { kind: "call", wrong: 99.5, terms: { stop: 97.31 } },
    ]);
    const { sha256, keyId, signature, ...of } = page;
    expect(hex(canonical({ format: "even-compass-told-1", ...of }))).toBe(sha256);
    expect(isSigned(String(sha256), signature, keys[String(keyId)])).toBe(true);
    const bytes = Buffer.from(packed, "base64");
    expect(hex(bytes)).toBe(of.bytes);
    const all = inflateRawSync(bytes);
    expect(all.subarray(1, 1 + all[0]).toString("ascii")).toBe("PT1M");
    const columns = all.subarray(1 + all[0]);
    const column = (n: number) => [0, 1, 2].map((row) => columns.readDoubleLE((n * 3 + row) * 8));
    expect([column(0), column(5), column(8)]).toEqual([
      [0, 1, 0],
      [100, 100, 101],
      [100.1, 100.1, 101.1],
    ]);
    expect((whole(barsPart).of as Fields).content).toEqual({ market: "tin", number: 1, sha256 });
  });

  it("holds a desk's record and chain to be whole, and a change of any of them not", async () => {
    const plain = async (file: Promise<object>) => JSON.parse(JSON.stringify(await file)) as Fields;
    const record = await plain(recordFile());
    expect(recordFaults(record)).toEqual([]);
    expect(chainFaults((await plain(chainFile())) as never)).toEqual([]);
    const tampered: [string, (file: Fields) => void][] = [
      [
        "edition 2",
        (file) => ((file.editions as Fields[])[1].canonical = String((file.editions as Fields[])[2].canonical)),
      ],
      ["followUp 2 stored", (file) => (((file.followUps as Fields[])[1].event as Fields).price = 1)],
      ["5 is another", (file) => ((file.entries as Fields[])[4].at = 1)],
      ["head 3", (file) => ((file.heads as Fields[])[2].sha256 = "0".repeat(64))],
      ["3 is out of its place", (file) => void (file.entries as Fields[]).splice(2, 1)],
    ];
    for (const [named, change] of tampered) {
      const file = structuredClone(record);
      change(file);
      expect(recordFaults(file).join(), named).toContain(named);
    }
  });
});
