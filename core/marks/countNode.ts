import type { Anchor } from "#core/marks/kind";
import { PATTERN_NAMES, PATTERNS, type Pattern } from "#core/waves/patterns";
import type { Wave } from "#core/waves/wave";

/**
 * A wave of a count that is kept: its pivots by their place among the mark's anchors, start first, so that a pivot
 * shared by several degrees is one point; `inner[i]` is what is said of its wave i, null where nothing is.
 */
export interface CountNode {
  pattern: Pattern;
  pivots: number[];
  inner: (CountNode | null)[];
}

/** Waves inside waves are kept so deep at the most. */
const DEEPEST = 9;

/** A wave over all anchors in order, with nothing said of its inside. */
export function wholeNode(pattern: Pattern, anchors: number): CountNode {
  const { labels } = PATTERNS[pattern];
  const pivots = Array.from({ length: Math.min(anchors, labels.length + 1) }, (_, i) => i);
  return { pattern, pivots, inner: labels.map(() => null) };
}

/** A wave from untrusted data; `undefined` where it is none or speaks of anchors that are not there. */
export function readNode(raw: unknown, anchors: number, depth = 0): CountNode | undefined {
  if (typeof raw !== "object" || raw === null || depth >= DEEPEST) return undefined;
  const { pattern: name, pivots, inner } = raw as Record<string, unknown>;
  const pattern = PATTERN_NAMES.find((one) => one === name);
  if (!pattern || !Array.isArray(pivots) || !Array.isArray(inner)) return undefined;
  const { labels } = PATTERNS[pattern];
  if (pivots.length < 1 || pivots.length > labels.length + 1 || inner.length !== labels.length) return undefined;
  if (!pivots.every((at): at is number => Number.isInteger(at) && (at as number) >= 0 && (at as number) < anchors))
    return undefined;
  const children = inner.map((child) => (child === null ? null : readNode(child, anchors, depth + 1)));
  if (children.some((child, i) => child === undefined || (child !== null && i >= pivots.length))) return undefined;
  return { pattern, pivots, inner: children as (CountNode | null)[] };
}

export function waveOf(anchors: readonly Anchor[], { pattern, pivots, inner }: CountNode): Wave {
  return {
    pattern,
    pivots: pivots.map((at) => ({ time: anchors[at].time, price: anchors[at].price })),
    inner: inner.map((child) => (child ? waveOf(anchors, child) : undefined)),
  };
}
