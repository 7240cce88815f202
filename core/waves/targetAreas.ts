/** A price where a wave may end, and what says so. */
export interface TargetReason {
  price: number;
  /** Degree or place it comes from, and the method; two of one place by one method are one reason. */
  from: string;
  method: string;
}

export interface TargetArea {
  bottom: number;
  top: number;
  reasons: TargetReason[];
}

/** Targets agree within this share of ATR (common practice, no source). */
const TOGETHER = 0.25;

/**
 * Where targets of different degrees or methods agree: of the targets within a quarter of `atr` above each one, the
 * window with most independent reasons makes an area, and so on with those that are left. At least two independent
 * reasons. From low to high. O(n^2) for n targets.
 */
export function targetAreas(targets: readonly TargetReason[], atr: number): TargetArea[] {
  let left = [...targets].filter(({ price }) => Number.isFinite(price)).sort((a, b) => a.price - b.price);
  const out: TargetArea[] = [];
  for (;;) {
    let best: TargetReason[] = [];
    for (let i = 0; i < left.length; i++) {
      const reasons: TargetReason[] = [];
      for (let j = i; j < left.length && left[j].price - left[i].price <= TOGETHER * atr; j++)
        if (!reasons.some((one) => one.from === left[j].from && one.method === left[j].method)) reasons.push(left[j]);
      if (reasons.length > best.length) best = reasons;
    }
    if (best.length < 2) return out.sort((a, b) => a.bottom - b.bottom);
    const [bottom, top] = [best[0].price, best[best.length - 1].price];
    out.push({ bottom, top, reasons: best });
    left = left.filter(({ price }) => price < bottom || price > top);
  }
}
