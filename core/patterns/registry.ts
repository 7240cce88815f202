import { doubleBottom, tripleBottom } from "#core/patterns/bottoms";
import { channelBreak } from "#core/patterns/channelBreak";
import { cup } from "#core/patterns/cup";
import { fivePoints1272, fivePoints1618, fivePoints786, fivePoints886 } from "#core/patterns/fivePoints";
import { flag, pennant } from "#core/patterns/flag";
import { headAndShoulders } from "#core/patterns/headAndShoulders";
import { rectangle } from "#core/patterns/rectangle";
import type { PatternShape } from "#core/patterns/shape";
import { ascendingTriangle, symmetricalTriangle } from "#core/patterns/triangle";
import { wedge } from "#core/patterns/wedge";

/** Every pattern there is, by name. */
export const PATTERNS = {
  flag,
  pennant,
  symmetricalTriangle,
  ascendingTriangle,
  wedge,
  rectangle,
  channelBreak,
  doubleBottom,
  tripleBottom,
  headAndShoulders,
  cup,
  fivePoints786,
  fivePoints886,
  fivePoints1272,
  fivePoints1618,
} as const satisfies Readonly<Record<string, PatternShape>>;

export type PatternName = keyof typeof PATTERNS;

export const PATTERN_NAMES = Object.keys(PATTERNS) as readonly PatternName[];

export const isPatternName = (value: unknown): value is PatternName =>
  typeof value === "string" && Object.hasOwn(PATTERNS, value);

/** What both ways of a pattern are called together. */
export const PATTERN_FAMILIES: Readonly<Record<PatternName, string>> = {
  flag: "Flags",
  pennant: "Pennants",
  symmetricalTriangle: "Symmetrical triangles",
  ascendingTriangle: "Ascending and descending triangles",
  wedge: "Wedges",
  rectangle: "Rectangles",
  channelBreak: "Channels",
  doubleBottom: "Double tops and bottoms",
  tripleBottom: "Triple tops and bottoms",
  headAndShoulders: "Head and shoulders",
  cup: "Cups with handle",
  fivePoints786: "Five points, D at 78.6 % of XA",
  fivePoints886: "Five points, D at 88.6 % of XA",
  fivePoints1272: "Five points, D at 127.2 % of XA",
  fivePoints1618: "Five points, D at 161.8 % of XA",
};

/** What a pattern is called, by the way it points: 1 up, -1 down. */
export function patternTitle(name: PatternName, sign: 1 | -1): string {
  return PATTERNS[name].title[sign > 0 ? 0 : 1];
}
