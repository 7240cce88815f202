import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { hashOfLeaf, isProven, proofOf, rootOf } from "./merkle.ts";

// The entries and roots that implementations of RFC 6962 and RFC 9162 are commonly checked by (from memory).
const ENTRIES = ["", "00", "10", "2021", "3031", "40414243", "5051525354555657", "606162636465666768696a6b6c6d6e6f"];
const ROOTS = [
  "e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855",
  "6e340b9cffb37a989ca544e6bb780a2c78901d3fb33738768511a30617afa01d",
  "fac54203e7cc696cf0dfcb42c92a1d9dbaf70ad9e621f4bd8d98662f00e3c125",
  "aeb6bcfe274b70a14fb067a5e5578264db0fa9b51af5e0ba159158f329e06e77",
  "d37ee418976dd95753c1c73862b9398fa2a2cf9b4ff0fdfe8b30cd95209614b7",
  "4e3bbb1f7b478dcfe71fb631631519a3bca12c9aefca1612bfce4c13a86264d4",
  "76e67dadbcdf1e10e1b74ddc608abd2f98dfb16fbce75277b5232a127f2087ef",
  "ddb89be403809e325750d3d263cd78929c2942b7942a34b77e122c9594a74c8c",
  "5dc9da79a70659a9ad559cb701ded9a2ab9d823aad2f4960cfe370eff4604328",
];
const leaves = ENTRIES.map((hex) => hashOfLeaf(Buffer.from(hex, "hex")));

describe("the tree of RFC 9162, section 2.1", () => {
  it("has the known roots of none to eight entries", () => {
    ROOTS.forEach((root, n) => expect(rootOf(leaves.slice(0, n)).toString("hex"), `${n} entries`).toBe(root));
  });
  // Section 2.1.5 draws the tree of seven entries d0 to d6 and names the nodes of their proofs.
  it("proves d0, d3, d4 and d6 of seven by the nodes that section 2.1.5 names", () => {
    const seven = leaves.slice(0, 7);
    const [a, b, c, d, e, f, j] = seven;
    const g = rootOf([a, b]);
    const h = rootOf([c, d]);
    const i = rootOf([e, f]);
    const k = rootOf([a, b, c, d]);
    const l = rootOf([e, f, j]);
    expect(proofOf(seven, 0)).toEqual([b, h, l]);
    expect(proofOf(seven, 3)).toEqual([c, g, l]);
    expect(proofOf(seven, 4)).toEqual([f, j, k]);
    expect(proofOf(seven, 6)).toEqual([i, k]);
  });
  it("proves every leaf of every size, and no other leaf, place, size or root", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 70 }), fc.nat(), fc.nat(), (size, one, other) => {
        const own = Array.from({ length: size }, (_, n) => hashOfLeaf(Buffer.from(`leaf ${n}`)));
        const [index, another] = [one % size, other % size];
        const [proof, root] = [proofOf(own, index), rootOf(own)];
        expect(isProven(own[index], index, size, proof, root)).toBe(true);
        expect(isProven(own[another], index, size, proof, root)).toBe(another === index);
        expect(isProven(own[index], another, size, proof, root)).toBe(another === index);
        expect(isProven(own[index], index, size, [...proof, root], root)).toBe(false);
        expect(isProven(own[index], index, size, proof.slice(1), root)).toBe(proof.length === 0);
        expect(isProven(own[index], index, size, proof, hashOfLeaf(root))).toBe(false);
      }),
      { numRuns: 300 },
    );
  });
  it("has no leaf beyond its size", () => {
    expect(() => proofOf(leaves, 8)).toThrow("There is no leaf 8 of 8.");
    expect(isProven(leaves[0], 8, 8, [], rootOf(leaves))).toBe(false);
  });
});
