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
