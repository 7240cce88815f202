import type { Bands } from "#core/levels/bands";
import { type FollowedBand } from "#core/levels/bands";
import { atrAt, type Detector, type Track } from "#core/series/track";
import { BASE_RULES, edgesOf, type Base, type BaseRules } from "#core/zones/edges";

export type ZoneSide = "demand" | "supply";
export type ZoneKind = "drop-base-rally" | "rally-base-rally" | "rally-base-drop" | "drop-base-drop";

export interface FoundZone extends Base {
  kind: ZoneKind;
  side: ZoneSide;
  bottom: number;
  top: number;
  /** Index of the bar at whose close the departure was strong enough. */
  knownAt: number;
  /** The departing leg, in ATR known before the base. */
  departure: number;
  life: FollowedBand;
}

/** A base price has not left yet. */
export interface PendingBase extends Base {
  kind?: undefined;
  side: ZoneSide;
  bottom: number;
  top: number;
  knownAt: number;
}

/**
 * Supply and demand zones from bases, found and followed one bar after the other (common practice, no source). Rules:
 * - a base is a run of 1 to `longest` bars, each at most `quiet` x ATR high, the ATR known before the run; a longer run
 *   is no base, nor is one without a bar before it;
 * - price leaves it when a close within `within` bars is at least `departure` x the same ATR away from the close of its
 *   last bar; the first such close decides the side; its edges are those of `edgesOf`;
 * - it was reached by a drop or a rally: the way from the close `within` bars before to the close right before it;
 * - it is followed from the bar after the base on, by the rules of `advanceBand`; leaving takes one height of it.
 */
export class BaseDetector implements Detector {
  readonly found: FoundZone[] = [];
  private readonly departed = new Set<number>();

  constructor(
    private readonly track: Track,
    private readonly bands: Bands,
    private readonly rules: BaseRules = BASE_RULES,
  ) {}

  /** Call after the bands were told of the bar. */
  next(i: number): void {
    const { close } = this.track;
    for (let to = i - 1; to >= Math.max(1, i - this.rules.within); to--) {
      if (this.departed.has(to)) continue;
      const base = this.baseEndingAt(to);
      if (!base) continue;
      const unit = atrAt(this.track, base.from - 1);
      const departure = Math.abs(close[i] - close[to]) / unit;
      if (departure < this.rules.departure) continue;
      this.departed.add(to);
      this.depart(base, close[i] > close[to] ? "demand" : "supply", departure, i);
    }
  }

  /** Bases that price may still leave, with the side they lean to. */
  pending(): PendingBase[] {
    const last = this.track.length - 1;
    const out: PendingBase[] = [];
    for (let to = last; to > Math.max(0, last - this.rules.within); to--) {
      const base = this.departed.has(to) ? undefined : this.baseEndingAt(to);
      if (!base) continue;
      const side =
        this.track.close[last] >= (to < last ? this.track.close[to] : this.track.open[base.from]) ? "demand" : "supply";
      const edges = edgesOf(this.track, base, side);
      if (edges.top - edges.bottom >= this.track.tick / 2) out.push({ ...base, side, ...edges, knownAt: base.to });
    }
    return out;
  }

  private depart(base: Base, side: ZoneSide, departure: number, i: number): void {
    const { bottom, top } = edgesOf(this.track, base, side);
    // A base of bars without a body or a wick has no height, and is no zone.
    if (top - bottom < this.track.tick / 2) return;
    const { close } = this.track;
    const before = base.from - 1;
    const rally = close[before] >= close[Math.max(0, before - this.rules.within)];
    const kind: ZoneKind = `${rally ? "rally" : "drop"}-base-${side === "demand" ? "rally" : "drop"}`;
    const life = this.bands.add({ side, bottom, top, leave: top - bottom }, base.to + 1, i);
    this.found.push({ ...base, kind, side, bottom, top, knownAt: i, departure, life });
  }

  private baseEndingAt(to: number): Base | undefined {
    const { track, rules } = this;
    let from = to;
    // The longest run that is quiet against the ATR before itself.
    let found: Base | undefined;
    while (from > 0 && to - from <= rules.longest) {
      const limit = rules.quiet * atrAt(track, from - 1);
      if (this.isQuiet(from, to, limit)) found = { from, to };
      from--;
    }
    return found && to - found.from < rules.longest ? found : undefined;
  }

  private isQuiet(from: number, to: number, limit: number): boolean {
    const { high, low } = this.track;
    for (let i = from; i <= to; i++) if (high[i] - low[i] > limit) return false;
    // The leg that left it is no part of it.
    return to + 1 >= this.track.length || high[to + 1] - low[to + 1] > limit;
  }
}
