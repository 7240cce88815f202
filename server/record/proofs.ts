import type { SealedEntry } from "./entry.ts";
import type { ChainLink } from "./file.ts";
import { isLeafProven, type ProvenLeaf } from "./leaves.ts";
import type { Fault } from "./verify.ts";

export const PROOFS_FORMAT = "even-compass-proofs-1";

/** Some leaves of an edition, for whoever may see those alone. */
export interface ProofsFile {
  format: typeof PROOFS_FORMAT;
  number: number;
  /** Root of the edition's leaves (hex), as the chain has it. */
  root: string;
  leaves: ProvenLeaf[];
}

/** Whether data is such a file, as far as its outline. */
export function isProofsFile(value: unknown): value is ProofsFile {
  const { format, root, leaves } = (value ?? {}) as Partial<ProofsFile>;
  const isLeaf = (one: Partial<ProvenLeaf> | null) =>
    typeof one?.leaf === "object" &&
    Array.isArray(one.proof) &&
    Number.isInteger(one.index) &&
    Number.isInteger(one.size);
  return format === PROOFS_FORMAT && typeof root === "string" && Array.isArray(leaves) && leaves.every(isLeaf);
}

/** Leaves that are not of the edition; and the edition, where a chain that is given does not have that root. */
export function verifyProofs(
  { number, root, leaves }: ProofsFile,
  entries?: readonly (SealedEntry | ChainLink)[],
): Fault[] {
  const wrong = leaves
    .filter((one) => !isLeafProven(one, root))
    .map(({ leaf }): Fault => `Edition ${number}: what stands at "${leaf.path}" is not proven.`);
  if (entries && !entries.some((one) => "digest" in one && one.digest === root))
    wrong.push(`Edition ${number}: the chain does not have this root.`);
  return wrong;
}
