import type { Detector, Track } from "#core/series/track";
import { isSwing, type Side, type Swing } from "#core/structure/swings";

export interface SwingRules {
  /** Bars on each side that a swing stands beyond. */
  k: number;
  ties: "last" | "none";
}

export const SWING_RULES: SwingRules = { k: 3, ties: "last" };

/** Symmetric swings one bar after the other; those a bar confirms stand in `confirmed` until the next one. */
export class SwingDetector implements Detector {
  readonly found: Swing[] = [];
  confirmed: readonly Swing[] = NONE;

  constructor(
    private readonly track: Track,
    private readonly rules: SwingRules = SWING_RULES,
  ) {}

  next(i: number): void {
    const { k } = this.rules;
    if (this.confirmed.length > 0) this.confirmed = NONE;
    if (i < 2 * k) return;
    this.test(i - k, "high");
    this.test(i - k, "low");
  }

  private test(index: number, side: Side): void {
    const { track } = this;
    const { k, ties } = this.rules;
    const prices = side === "high" ? track.high : track.low;
    if (!isSwing(prices, index, k, side, ties)) return;
    const swing: Swing = { index, time: track.time[index], side, price: prices[index], knownAt: index + k };
    this.found.push(swing);
    this.confirmed = [...this.confirmed, swing];
  }
}

const NONE: readonly Swing[] = [];
