import type { Anchor, Mark } from "#core/marks/kind";
import { kindOf } from "#core/marks/registry";
import { drawMark, indexOfAnchor, indexOfTime, timeOf, type Picture } from "../../chart/picture.ts";
import { hits } from "../../chart/hit.ts";
import type { Scale } from "../../chart/scale.ts";
import { toTick } from "#core/series/tick";
import { anchorAt } from "./crosshair.ts";
import type { Point } from "./gestures.ts";

/** An anchor of a mark that is held by its handle. */
export interface HeldAnchor {
  mark: Mark;
  anchor: number;
}

/** The marks of a picture as they lie on the screen: which one a point means, and where they are moved to. */
export class MarkReach {
  constructor(
    private readonly picture: Picture,
    private readonly scale: Scale,
  ) {}

  /** Marks that are chosen. */
  get chosen(): Mark[] {
    const { marks, selected } = this.picture;
    return selected.length === 0 ? [] : marks.map(({ mark }) => mark).filter(({ id }) => selected.includes(id));
  }

  toPixels = ({ time, price }: Anchor): Point => ({ x: this.scale.x(this.indexOf(time)), y: this.scale.y(price) });

  /** Where an anchor of a mark is drawn. */
  pixelsOf(mark: Mark, { time, price }: Anchor): Point {
    const index = kindOf(mark).onExtremes ? indexOfAnchor(this.picture, mark, time, price) : this.indexOf(time);
    return { x: this.scale.x(index), y: this.scale.y(price) };
  }

  /** The topmost mark at a point. */
  markAt({ x, y }: Point, reach: number): string | undefined {
    const { picture, scale } = this;
    return picture.marks.findLast((lived) => hits(drawMark(lived, picture, scale), x, y, reach))?.mark.id;
  }

  /** The handle at a point, of the one mark that is chosen; a locked one has none. */
  gripAt({ x, y }: Point, reach: number): HeldAnchor | undefined {
    const [mark, ...others] = this.chosen;
    if (!mark || others.length > 0 || mark.locked) return undefined;
    const anchor = mark.anchors
      .map((one) => this.pixelsOf(mark, one))
      .findIndex((at) => Math.hypot(at.x - x, at.y - y) <= reach + 4);
    return anchor >= 0 ? { mark, anchor } : undefined;
  }

  /** The mark with the anchor that is held put where a point means. */
  dragged({ mark, anchor }: HeldAnchor, point: Point): Mark {
    return {
      ...mark,
      anchors: mark.anchors.map((one, i) => (i === anchor ? anchorAt(this.picture, this.scale, point) : one)),
    };
  }

  /** Every mark an anchor of which lies in a box. */
  within(from: Point, to: Point): string[] {
    const between = (value: number, a: number, b: number) => value >= Math.min(a, b) && value <= Math.max(a, b);
    const caught = (mark: Mark) => (anchor: Anchor) => {
      const { x, y } = this.pixelsOf(mark, anchor);
      return between(x, from.x, to.x) && between(y, from.y, to.y);
    };
    return this.picture.marks.filter(({ mark }) => mark.anchors.some(caught(mark))).map(({ mark }) => mark.id);
  }

  /** The chosen marks moved by ticks and by bars of this chart; locked ones stay. */
  nudged(ticks: number, bars: number): Mark[] {
    const { market, pyramid, future } = this.picture;
    const series = pyramid.levels[0];
    const last = series.length - 1 + future.length;
    const timeAt = (time: number) =>
      bars === 0 ? time : timeOf(series, future, Math.max(0, Math.min(last, Math.round(this.indexOf(time)) + bars)));
    const moved = ({ time, price }: Anchor): Anchor => ({
      time: timeAt(time),
      price: ticks === 0 ? price : toTick(price + ticks * market.tick, market.tick, market.decimals),
    });
    return this.chosen.filter(({ locked }) => !locked).map((mark) => ({ ...mark, anchors: mark.anchors.map(moved) }));
  }

  private indexOf(time: number): number {
    return indexOfTime(this.picture.pyramid.levels[0], this.picture.future, time);
  }
}
