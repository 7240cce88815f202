/** How stated weights compare with what happened; the mean squared error taken apart by tenths of the weight. */
export interface Calibration {
  n: number;
  /** Share of what happened. */
  base: number;
  brier: number;
  reliability: number;
  resolution: number;
  uncertainty: number;
  /** What weights that differ within a tenth add to the three above. */
  within: number;
  logScore: number;
  /** Against always stating the base rate; absent where everything or nothing happened. */
  skill?: number;
  /** Tenths that hold any: where they begin, mean weight, share that happened. */
  bins: { from: number; n: number; weight: number; share: number }[];
}

/** A weight of 0 or 1 that was wrong would make the log score infinite. */
const LEAST = 1e-6;

/**
 * Brier score (G. W. Brier, 1950) with its decomposition (A. H. Murphy, 1973) over tenths, and the mean of -ln of what
 * was stated for what happened. Nothing of no weight.
 */
export function calibrationOf(stated: readonly { weight: number; happened: boolean }[]): Calibration | undefined {
  const n = stated.length;
  if (n === 0) return undefined;
  const mean = (of: readonly number[]) => of.reduce((sum, one) => sum + one, 0) / of.length;
  const event = ({ happened }: { happened: boolean }) => (happened ? 1 : 0);
  const base = mean(stated.map(event));
  const brier = mean(stated.map((one) => (one.weight - event(one)) ** 2));
  const bins = Array.from({ length: 10 }, (_, k) => stated.filter(({ weight }) => tenthOf(weight) === k)).flatMap(
    (own, k) =>
      own.length === 0
        ? []
        : [{ from: k / 10, n: own.length, weight: mean(own.map(({ weight }) => weight)), share: mean(own.map(event)) }],
  );
  const over = (of: (bin: (typeof bins)[number]) => number) => bins.reduce((sum, bin) => sum + bin.n * of(bin), 0) / n;
  const reliability = over(({ weight, share }) => (weight - share) ** 2);
  const resolution = over(({ share }) => (share - base) ** 2);
  const uncertainty = base * (1 - base);
  const logs = stated.map(({ weight, happened }) => {
    const given = Math.min(1 - LEAST, Math.max(LEAST, happened ? weight : 1 - weight));
    return -Math.log(given);
  });
  return {
    ...{ n, base, brier, reliability, resolution, uncertainty },
    within: brier - (reliability - resolution + uncertainty),
    logScore: mean(logs),
    ...(uncertainty > 0 ? { skill: 1 - brier / uncertainty } : {}),
    bins,
  };
}

const tenthOf = (weight: number) => Math.min(9, Math.floor(10 * weight + 1e-9));
