/** What a range is taken from: the last shift's origin to the extreme since, yesterday, or the last completed leg. */
export const RANGE_BASES = ["shift", "yesterday", "leg"] as const;
export type RangeBasis = (typeof RANGE_BASES)[number];

export interface DealingRange {
  bottom: number;
  top: number;
  basis: RangeBasis;
}

/** The equilibrium band of a range: 38.2 to 61.8 % (common practice, no source); adjustable. */
export const EQUILIBRIUM: readonly [number, number] = [0.382, 0.618];

export interface Standing {
  /** Where a price stands in the range: 0 at its bottom, 1 at its top; beyond it when the range was left. */
  share: number;
  place: "discount" | "equilibrium" | "premium";
  middle: number;
  /** Prices of the equilibrium band. */
  band: readonly [number, number];
}

/** Where a price stands in a range; inside the equilibrium band, both ends included, it is neither cheap nor dear. */
export function standingIn(
  { bottom, top }: Pick<DealingRange, "bottom" | "top">,
  price: number,
  [from, to] = EQUILIBRIUM,
): Standing | undefined {
  const height = top - bottom;
  if (!(height > 0)) return undefined;
  const share = (price - bottom) / height;
  // Binary fractions decide nothing at the band's ends.
  const beyond = (a: number, b: number) => a - b > 1e-9;
  const place = beyond(from, share) ? "discount" : beyond(share, to) ? "premium" : "equilibrium";
  return { share, place, middle: (top + bottom) / 2, band: [bottom + from * height, bottom + to * height] };
}

/** The range of a trend: from where its first leg came to its extreme. */
export function rangeOfTrend({
  origin,
  extreme,
}: {
  origin: { price: number };
  extreme: { price: number };
}): DealingRange {
  return { bottom: Math.min(origin.price, extreme.price), top: Math.max(origin.price, extreme.price), basis: "shift" };
}
