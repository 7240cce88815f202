import { createHash } from "node:crypto";

/**
 * A hash tree over a list, after RFC 9162, section 2.1: leaves are hashed behind a zero byte and nodes behind a one, so
 * that neither can be taken for the other. Digests are 32 bytes of SHA-256.
 */
const LEAF = Buffer.of(0);
const NODE = Buffer.of(1);

const sha256 = (...parts: readonly Uint8Array[]): Buffer => {
  const hash = createHash("sha256");
  for (const part of parts) hash.update(part);
  return hash.digest();
};

export const hashOfLeaf = (data: Uint8Array): Buffer => sha256(LEAF, data);
const hashOfNode = (left: Uint8Array, right: Uint8Array): Buffer => sha256(NODE, left, right);

/** The largest power of two that is smaller than `n`. */
function half(n: number): number {
  let k = 1;
  while (k * 2 < n) k *= 2;
  return k;
}

/** Root of the tree over the hashes of its leaves; of none the digest of nothing. */
export function rootOf(leaves: readonly Uint8Array[]): Buffer {
  if (leaves.length === 0) return sha256();
  if (leaves.length === 1) return Buffer.from(leaves[0]);
  const k = half(leaves.length);
  return hashOfNode(rootOf(leaves.slice(0, k)), rootOf(leaves.slice(k)));
}

/** What proves that a leaf is in the tree (section 2.1.3.1): the nodes beside its way to the root, from below. */
export function proofOf(leaves: readonly Uint8Array[], index: number): Buffer[] {
  if (!(index >= 0 && index < leaves.length)) throw new RangeError(`There is no leaf ${index} of ${leaves.length}.`);
  if (leaves.length === 1) return [];
  const k = half(leaves.length);
  return index < k
    ? [...proofOf(leaves.slice(0, k), index), rootOf(leaves.slice(k))]
    : [...proofOf(leaves.slice(k), index - k), rootOf(leaves.slice(0, k))];
}

/** Whether a leaf's hash stands at an index of the tree of so many leaves with that root (section 2.1.3.2). */
export function isProven(
  leaf: Uint8Array,
  index: number,
  size: number,
  proof: readonly Uint8Array[],
  root: Uint8Array,
): boolean {
  if (!(index >= 0 && index < size)) return false;
  let [own, last] = [index, size - 1];
  let hash: Uint8Array = leaf;
  for (const beside of proof) {
    if (last === 0) return false;
    if (own % 2 === 1 || own === last) {
      hash = hashOfNode(beside, hash);
      while (own % 2 === 0 && own !== 0) [own, last] = [own >>> 1, last >>> 1];
    } else hash = hashOfNode(hash, beside);
    [own, last] = [own >>> 1, last >>> 1];
  }
  return last === 0 && Buffer.compare(hash, root) === 0;
}
