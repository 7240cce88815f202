import type { FoundWave } from "#core/waves/machine";
import { isSimple, type Pattern } from "#core/waves/patterns";

/**
 * Insides as they may stand together: of a triangle all but one are zigzags or several, which the search, wave by wave,
 * does not know; nothing is said of the inside of a further one.
 */
export function together(pattern: Pattern, inner: (FoundWave | undefined)[]): (FoundWave | undefined)[] {
  if (pattern !== "triangle" && pattern !== "triangleExpanding") return inner;
  let others = 0;
  return inner.map((child) => (child && !isSimple(child.pattern) && ++others > 1 ? undefined : child));
}
