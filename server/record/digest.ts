import { sha256 } from "../canonical.ts";
import { leavesOf, rootOfLeaves, textOfLeaves } from "./leaves.ts";

/**
 * The digest by which a stored edition is known: of leaves the root of their tree, of a text from before there were any
 * its SHA-256. Whatever stands in a text beside its leaves is no part of an edition: such a text has a text's digest,
 * which was never entered for it.
 */
export function digestOf(text: string): string {
  const leaves = leavesOf(text);
  return leaves && textOfLeaves(leaves) === text ? rootOfLeaves(leaves) : sha256(text);
}
