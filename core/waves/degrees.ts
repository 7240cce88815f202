/** Degrees of waves, large to small (Frost and Prechter, chapter 1). */
export const DEGREES = [
  "Grand Supercycle",
  "Supercycle",
  "Cycle",
  "Primary",
  "Intermediate",
  "Minor",
  "Minute",
  "Minuette",
  "Subminuette",
] as const;
export type Degree = (typeof DEGREES)[number];

/** The degree `steps` below; nothing below the smallest. */
export function degreeBelow(degree: Degree, steps = 1): Degree | undefined {
  return DEGREES[DEGREES.indexOf(degree) + steps];
}

const YEAR = 365.25 * 86_400_000;
/**
 * How long a wave of each degree lasts at least, in years: the book gives no lengths but examples (a Grand Supercycle
 * of centuries, a Cycle of years, a Minor of weeks); the bounds between them are ours, each about a quarter of the one
 * above.
 */
const LASTS: readonly number[] = [64, 16, 4, 1, 0.25, 1 / 16, 1 / 64, 1 / 256];

/** The degree of a wave that lasted so long (ms). */
export function degreeOfSpan(lasted: number): Degree {
  const at = LASTS.findIndex((years) => lasted >= years * YEAR);
  return DEGREES[at < 0 ? DEGREES.length - 1 : at];
}
