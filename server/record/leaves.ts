import { randomBytes } from "node:crypto";
import { canSee, type EditionPart, type See } from "#core/edition/parts";
import { canonicalText } from "../canonical.ts";
import { hashOfLeaf, isProven, proofOf, rootOf } from "./merkle.ts";

/**
 * A piece of an edition that is shown or withheld as one. Its hash tells nothing of what is in it to whoever may not
 * see it, for nobody can guess its salt.
 */
export interface Leaf {
  /** Where it stands in the edition: names and places from the root, joined by "/"; empty for the root itself. */
  path: string;
  /** 128 random bits, base64url. */
  salt: string;
  see: See;
  content: unknown;
}

/** Where an edition is cut. */
export type Cut = Pick<Leaf, "path" | "see">;

export const LEAVES_FORMAT = "even-compass-edition-3";

const freshSalt = () => randomBytes(16).toString("base64url");
const stepsOf = (path: string) => path.split("/");

/**
 * An edition in leaves: each cut is one without what lies in the cuts within it, the rest is the root's. A place in a
 * list that was cut out is null, so that those behind it keep theirs. Throws a `RangeError` where nothing stands.
 */
export function cutLeaves(content: object, cuts: readonly Cut[], salt: () => string = freshSalt): Leaf[] {
  const whole = structuredClone(content);
  const deepestFirst = [...cuts].sort((a, b) => stepsOf(b.path).length - stepsOf(a.path).length);
  const taken = new Map(deepestFirst.map(({ path }) => [path, takeOut(whole, path)]));
  return [
    { path: "", salt: salt(), see: "all", content: whole },
    ...cuts.map(({ path, see }): Leaf => ({ path, salt: salt(), see, content: taken.get(path) })),
  ];
}

function takeOut(whole: object, path: string): unknown {
  const steps = stepsOf(path);
  const last = steps.pop() ?? "";
  const parent = steps.reduce<unknown>((at, step) => (at as Record<string, unknown> | undefined)?.[step], whole);
  if (typeof parent !== "object" || parent === null || !Object.hasOwn(parent, last))
    throw new RangeError(`Nothing stands at ${path}.`);
  const holder = parent as Record<string, unknown>;
  const value = holder[last];
  if (Array.isArray(parent)) holder[last] = null;
  else delete holder[last];
  return value;
}

/** The edition of some of its leaves: what is withheld is missing, or null in a list. `{}` without the root. */
export function assembled(leaves: readonly Leaf[]): Record<string, unknown> {
  const root = leaves.find(({ path }) => path === "")?.content;
  if (typeof root !== "object" || root === null) return {};
  const whole = structuredClone(root) as Record<string, unknown>;
  const within = leaves.filter(({ path }) => path !== "");
  within.sort((a, b) => stepsOf(a.path).length - stepsOf(b.path).length);
  for (const { path, content } of within) {
    const steps = stepsOf(path);
    const last = steps.pop() ?? "";
    const parent = steps.reduce<unknown>(
      (at, step) =>
        typeof at === "object" && at !== null && Object.hasOwn(at, step) ? (at as never)[step] : undefined,
      whole,
    );
    if (typeof parent === "object" && parent !== null && last !== "__proto__")
      (parent as Record<string, unknown>)[last] = structuredClone(content);
  }
  return whole;
}

const hashOf = ({ path, salt, see, content }: Leaf) =>
  hashOfLeaf(Buffer.from(canonicalText({ path, salt, see, content }), "utf8"));

/** The text that is stored of an edition. */
export function textOfLeaves(leaves: readonly Leaf[]): string {
  return canonicalText({ format: LEAVES_FORMAT, leaves });
}

/** Leaves of a stored text; `undefined` for one of another format, or of none. */
export function leavesOf(text: string): Leaf[] | undefined {
  try {
    const value: unknown = JSON.parse(text);
    if (typeof value !== "object" || value === null) return undefined;
    const { format, leaves } = value as { format?: unknown; leaves?: unknown };
    const isWhole =
      format === LEAVES_FORMAT &&
      Array.isArray(leaves) &&
      leaves.every((one: Partial<Leaf> | null) => typeof one?.path === "string" && typeof one.salt === "string");
    return isWhole ? (leaves as Leaf[]) : undefined;
  } catch {
    return undefined;
  }
}

/** Root of the tree over an edition's leaves (hex): what is chained and signed. */
export function rootOfLeaves(leaves: readonly Leaf[]): string {
  return rootOf(leaves.map(hashOf)).toString("hex");
}

/** A leaf with what proves that it is of the edition with that root. */
export interface ProvenLeaf {
  leaf: Leaf;
  index: number;
  size: number;
  /** Hashes (hex), from the leaf up. */
  proof: string[];
}

/** Leaves a plan may see. */
export function leavesSeen(leaves: readonly Leaf[], parts: readonly EditionPart[]): Leaf[] {
  return leaves.filter(({ see }) => canSee(see, parts));
}

/** The same, each with its proof. */
export function provenLeaves(leaves: readonly Leaf[], parts: readonly EditionPart[]): ProvenLeaf[] {
  const hashes = leaves.map(hashOf);
  return leaves.flatMap((leaf, index): ProvenLeaf[] =>
    canSee(leaf.see, parts)
      ? [{ leaf, index, size: leaves.length, proof: proofOf(hashes, index).map((hash) => hash.toString("hex")) }]
      : [],
  );
}

export function isLeafProven({ leaf, index, size, proof }: ProvenLeaf, root: string): boolean {
  const nodes = proof.map((hash) => Buffer.from(hash, "hex"));
  return isProven(hashOf(leaf), index, size, nodes, Buffer.from(root, "hex"));
}
