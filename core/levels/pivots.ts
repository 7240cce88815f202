/** Classic pivots of a coming period. */
export interface Pivots {
  P: number;
  R1: number;
  R2: number;
  R3: number;
  S1: number;
  S2: number;
  S3: number;
}

/**
 * Classic pivots from the high, low and close of the period before: the middle of the three, its reflections, one range
 * away from it, and the extremes moved on by twice their distance from it. Floor traders' practice, no source.
 */
export function pivotsOf({ high, low, close }: { high: number; low: number; close: number }): Pivots {
  const P = (high + low + close) / 3;
  return {
    P,
    R1: 2 * P - low,
    R2: P + (high - low),
    R3: high + 2 * (P - low),
    S1: 2 * P - high,
    S2: P - (high - low),
    S3: low - 2 * (high - P),
  };
}
