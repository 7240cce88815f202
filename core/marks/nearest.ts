import type { Life, Mark } from "#core/marks/kind";
import { kindOf } from "#core/marks/registry";

/** Marks a chart draws at once; with more of them the market could not be seen. The Sheet lists the others. */
export const MOST_DRAWN = 200;

type Lived = { mark: Mark; life: Life };

/**
 * The `most` marks a chart has room for, in the order given: those that are chosen first, then live ones by how near
 * any of their prices lies to `close`, then dead ones likewise.
 */
export function nearestMarks<T extends Lived>(
  marks: readonly T[],
  close: number,
  most: number,
  chosen: readonly string[],
): readonly T[] {
  if (marks.length <= most) return marks;
  const ranked = marks.map((one, order) => ({
    one,
    order,
    rank: chosen.includes(one.mark.id) ? 0 : one.life.dead ? 2 : 1,
    away: awayFrom(one, close),
  }));
  ranked.sort((a, b) => a.rank - b.rank || a.away - b.away || a.order - b.order);
  return ranked
    .slice(0, most)
    .sort((a, b) => a.order - b.order)
    .map(({ one }) => one);
}

function awayFrom({ mark, life }: Lived, close: number): number {
  const bands = kindOf(mark).prices(mark, life);
  const spots = bands.length > 0 ? bands : mark.anchors.map(({ price }) => ({ bottom: price, top: price }));
  return Math.min(...spots.map(({ bottom, top }) => (close > top ? close - top : close < bottom ? bottom - close : 0)));
}
