import { describe, expect, it } from "vitest";
import { sha256 } from "../canonical.ts";
import { digestOf } from "./digest.ts";
import { PARTS } from "#core/edition/parts";
import {
  assembled,
  cutLeaves,
  isLeafProven,
  leavesOf,
  provenLeaves,
  rootOfLeaves,
  textOfLeaves,
  type Cut,
} from "./leaves.ts";

const content = {
  number: 7,
  blocks: [
    { kind: "words", words: "Tin holds." },
    { kind: "market", levels: [1, 2], scenarios: [{ id: "a", terms: { if: [], orders: [{ stop: 5 }] } }] },
    { kind: "risk" },
  ],
};
const cuts: Cut[] = [
  { path: "blocks/0", see: "words" },
  { path: "blocks/1/levels", see: "levels" },
  { path: "blocks/1/scenarios/0", see: "scenarios" },
  { path: "blocks/1/scenarios/0/terms/orders", see: "orders" },
];

describe("an edition in leaves", () => {
  it("is the same put together again, however its leaves are ordered", () => {
    const leaves = cutLeaves(content, cuts);
    expect(leaves.map(({ path }) => path)).toEqual(["", ...cuts.map(({ path }) => path)]);
    expect(assembled(leaves)).toEqual(content);
    expect(assembled([...leaves].reverse())).toEqual(content);
  });
  it("without some of them has no trace of what they hold, and the rest in its place", () => {
    const leaves = cutLeaves(content, cuts);
    const shown = provenLeaves(leaves, ["scenarios"]).map(({ leaf }) => leaf);
    expect(assembled(shown)).toEqual({
      number: 7,
      blocks: [null, { kind: "market", scenarios: [{ id: "a", terms: { if: [] } }] }, { kind: "risk" }],
    });
    expect(JSON.stringify(shown)).not.toMatch(/Tin holds|stop/);
  });
  it("has one root for everybody, by which each leaf is proven alone", () => {
    const leaves = cutLeaves(content, cuts);
    const root = rootOfLeaves(leaves);
    for (const sees of [PARTS, [], ["orders"]] as const)
      for (const proven of provenLeaves(leaves, sees)) {
        expect(isLeafProven(proven, root)).toBe(true);
        expect(isLeafProven({ ...proven, leaf: { ...proven.leaf, see: "words", content: 1 } }, root)).toBe(false);
      }
  });
  it("the same words twice have two hashes: nobody can guess what a leaf holds by trying", () => {
    expect(rootOfLeaves(cutLeaves(content, cuts))).not.toBe(rootOfLeaves(cutLeaves(content, cuts)));
  });
  it("is known by its root; a text with anything beside its leaves, or of before, by the digest of its text", () => {
    const leaves = cutLeaves(content, cuts);
    const text = textOfLeaves(leaves);
    expect(leavesOf(text)).toEqual(leaves);
    expect(digestOf(text)).toBe(rootOfLeaves(leaves));
    const more = text.replace('"format"', '"aside":"a word","format"');
    expect(digestOf(more)).toBe(sha256(more));
    const first = '{"format":"even-compass-edition-2","number":1}';
    expect(digestOf(first)).toBe(sha256(first));
    expect(digestOf("no text at all")).toBe(sha256("no text at all"));
  });
  it("is not cut where nothing stands; a hostile path reaches nothing", () => {
    expect(() => cutLeaves(content, [{ path: "blocks/9", see: "all" }])).toThrow("Nothing stands at blocks/9.");
    const hostile = { path: "__proto__/polluted", salt: "", see: "all", content: 1 } as const;
    expect(assembled([...cutLeaves(content, []), hostile])).toEqual(content);
    expect(({} as Record<string, unknown>).polluted).toBeUndefined();
  });
});
