/** One case: what is known of it, whether it came true, and the log odds it starts from. */
export interface Case {
  x: readonly number[];
  y: 0 | 1;
  offset?: number;
}

const STEPS = 25;
const SETTLED = 1e-10;

export const logistic = (logOdds: number): number => 1 / (1 + Math.exp(-logOdds));

export function logOddsOf({ x, offset = 0 }: Pick<Case, "x" | "offset">, weights: readonly number[]): number {
  let sum = offset;
  for (let j = 0; j < weights.length; j++) sum += weights[j] * x[j];
  return sum;
}

/**
 * Weights of a logistic regression with a ridge (A. E. Hoerl and R. W. Kennard, 1970; S. le Cessie and J. C. van
 * Houwelingen, 1992, from memory): `ridge[j]` holds weight j to 0, 0 leaves it free. By Newton's steps; O(cases x
 * weights squared) each. Without cases all weights are 0.
 */
export function fitLogistic(cases: readonly Case[], ridge: readonly number[]): number[] {
  const p = ridge.length;
  const weights = new Array<number>(p).fill(0);
  for (let step = 0; step < STEPS; step++) {
    const slope = weights.map((weight, j) => -ridge[j] * weight);
    const curve = Array.from({ length: p }, (_, j) => {
      const row = new Array<number>(p).fill(0);
      row[j] = ridge[j] + SETTLED;
      return row;
    });
    for (const one of cases) {
      const likely = logistic(logOddsOf(one, weights));
      const spread = Math.max(likely * (1 - likely), 1e-9);
      for (let j = 0; j < p; j++) {
        const xj = one.x[j];
        if (xj === 0) continue;
        slope[j] += xj * (one.y - likely);
        for (let m = 0; m <= j; m++) curve[j][m] += spread * xj * one.x[m];
      }
    }
    const move = solve(curve, slope);
    // Steps are held short: far out the curve says little.
    const longest = Math.max(...move.map(Math.abs), 0);
    const scale = longest > 2 ? 2 / longest : 1;
    for (let j = 0; j < p; j++) weights[j] += scale * move[j];
    if (longest < 1e-9) break;
  }
  return weights;
}

/** Solves A x = b for a symmetric positive A of which the lower half is given (A. L. Cholesky); A is overwritten. */
function solve(a: number[][], b: readonly number[]): number[] {
  const p = b.length;
  for (let j = 0; j < p; j++) {
    for (let m = 0; m <= j; m++) {
      let sum = a[j][m];
      for (let n = 0; n < m; n++) sum -= a[j][n] * a[m][n];
      a[j][m] = m === j ? Math.sqrt(Math.max(sum, SETTLED)) : sum / a[m][m];
    }
  }
  const x = [...b];
  for (let j = 0; j < p; j++) {
    for (let n = 0; n < j; n++) x[j] -= a[j][n] * x[n];
    x[j] /= a[j][j];
  }
  for (let j = p - 1; j >= 0; j--) {
    for (let n = j + 1; n < p; n++) x[j] -= a[n][j] * x[n];
    x[j] /= a[j][j];
  }
  return x;
}
