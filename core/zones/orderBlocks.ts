import type { Bands, FollowedBand } from "#core/levels/bands";
import type { FurthestSince } from "#core/series/furthest";
import type { Detector, Track } from "#core/series/track";
import type { StructureDetector, StructureEvent } from "#core/structure/structure";
import { edgesOf, type Base } from "#core/zones/edges";

export interface OrderBlock extends Base {
  side: "demand" | "supply";
  bottom: number;
  top: number;
  knownAt: number;
  /** The break or shift that made it one. */
  by: StructureEvent;
  life: FollowedBand;
}

/** The last opposite candle is looked for this many bars before the leg's first. */
const BEFORE = 3;

/**
 * Order blocks: the last opposite candle before a leg that broke structure, down to the leg's own extreme (common
 * practice, no source). The leg runs from the furthest price since the broken swing to the bar that closed beyond it.
 * Known at that bar's close; followed from the leg's second bar on. Each candle is one once.
 */
export class OrderBlockDetector implements Detector {
  readonly found: OrderBlock[] = [];
  private seen = 0;
  private readonly taken = new Set<number>();

  constructor(
    private readonly track: Track,
    private readonly structure: StructureDetector,
    private readonly extremes: { lowest: FurthestSince; highest: FurthestSince },
    private readonly bands: Bands,
  ) {}

  next(i: number): void {
    const { events } = this.structure;
    for (; this.seen < events.length; this.seen++) {
      const event = events[this.seen];
      if (event.event === "shift" || (event.event === "break" && !event.inner)) this.make(event, i);
    }
  }

  private make(by: StructureEvent, i: number): void {
    const { track } = this;
    const up = by.direction === "up";
    const leg = (up ? this.extremes.lowest : this.extremes.highest).indexSince(by.swing + 1);
    if (leg < 0 || leg >= i) return;
    const sign = up ? 1 : -1;
    for (let from = leg; from >= Math.max(0, leg - BEFORE); from--) {
      if (sign * (track.close[from] - track.open[from]) >= 0) continue;
      const key = sign * (from + 1);
      if (this.taken.has(key)) return;
      this.taken.add(key);
      const base = { from, to: leg };
      const side = up ? "demand" : "supply";
      const { bottom, top } = edgesOf(track, base, side);
      if (top - bottom < track.tick / 2) return;
      this.found.push({
        ...base,
        side,
        bottom,
        top,
        knownAt: i,
        by,
        life: this.bands.add({ side, bottom, top, leave: top - bottom }, leg + 1, i),
      });
      return;
    }
  }
}
