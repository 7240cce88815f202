import type { Bands, FollowedBand } from "#core/levels/bands";
import { atrAt, type Detector, type Track } from "#core/series/track";

export interface RangeRules {
  /** Bars a range has at least. */
  least: number;
  /** Its height at most, in ATR known before its first bar. */
  height: number;
}

export const RANGE_RULES: RangeRules = { least: 8, height: 2 };

export interface FoundRange {
  /** First bar, and the last that closed inside so far. */
  from: number;
  to: number;
  bottom: number;
  top: number;
  /** Index of the bar at whose close it had lasted long enough. */
  knownAt: number;
  /** The way price came into it. */
  arrival: "up" | "down";
  /** How it was left, at which bar, and what came back to it since. */
  left?: { way: "up" | "down"; at: number; as: "turn" | "continuation"; life: FollowedBand };
}

/**
 * Sideways ranges by containment (definition our own): `least` bars in a row within `height` x ATR make one, its edges
 * are their highest and lowest prices; it lasts until a close strictly beyond an edge. Left, it is a band that price
 * may come back to tap (common practice, no source). One range at a time; the next begins after it was left.
 */
export class RangeDetector implements Detector {
  readonly found: FoundRange[] = [];
  private current: FoundRange | undefined;
  private begin = 1;

  constructor(
    private readonly track: Track,
    private readonly bands: Bands,
    private readonly rules: RangeRules = RANGE_RULES,
  ) {}

  /** Call after the bands were told of the bar. */
  next(i: number): void {
    if (this.current) this.hold(this.current, i);
    else this.look(i);
  }

  private look(i: number): void {
    const { high, low, close } = this.track;
    const from = i - this.rules.least + 1;
    if (from < this.begin) return;
    const limit = this.rules.height * atrAt(this.track, from - 1);
    let [bottom, top] = [low[i], high[i]];
    for (let j = i - 1; j >= from; j--) {
      bottom = Math.min(bottom, low[j]);
      top = Math.max(top, high[j]);
      if (top - bottom > limit) return;
    }
    const arrival = close[from - 1] >= close[Math.max(0, from - this.rules.least)] ? "up" : "down";
    this.current = { from, to: i, bottom, top, knownAt: i, arrival };
    this.found.push(this.current);
  }

  private hold(range: FoundRange, i: number): void {
    const close = this.track.close[i];
    if (close <= range.top && close >= range.bottom) {
      range.to = i;
      return;
    }
    const way = close > range.top ? "up" : "down";
    const { bottom, top } = range;
    const band = { side: way === "up" ? ("demand" as const) : ("supply" as const), bottom, top, leave: top - bottom };
    range.left = { way, at: i, as: way === range.arrival ? "continuation" : "turn", life: this.bands.add(band, i, i) };
    this.current = undefined;
    this.begin = i;
  }
}
