import type { Anchor, Mark } from "#core/marks/kind";
import { waveOf, type CountNode } from "#core/marks/countNode";
import type { CountProps } from "#core/marks/countProps";
import { lengthOf } from "#core/marks/shown";
import { PATTERNS, type Pattern } from "#core/waves/patterns";
import { allWaves, isComplete, type Pivot, type Wave } from "#core/waves/wave";

/** The anchors and the tree of a wave: each turn once, in order of time. */
export function anchorsOf(root: Wave): { anchors: Anchor[]; root: CountNode } {
  const key = ({ time, price }: Anchor) => `${time} ${price}`;
  const all = new Map(
    allWaves(root).flatMap(({ wave }) => wave.pivots.map(({ time, price }) => [key({ time, price }), { time, price }])),
  );
  const anchors = [...all.values()].sort((a, b) => a.time - b.time);
  const place = new Map(anchors.map((anchor, i) => [key(anchor), i]));
  const nodeOf = ({ pattern, pivots, inner }: Wave): CountNode => ({
    pattern,
    pivots: pivots.map((pivot) => place.get(key(pivot)) ?? 0),
    inner: PATTERNS[pattern].labels.map((_, i) => (inner[i] ? nodeOf(inner[i]) : null)),
  });
  return { anchors, root: nodeOf(root) };
}

type Counted = Mark<CountProps>;

/** The wave of a count at a place: [2, 0] is the first of the third of the root. */
export function nodeAt({ props }: Counted, at: readonly number[]): CountNode | undefined {
  let node: CountNode | null | undefined = props.root;
  for (const wave of at) node = node?.inner[wave];
  return node ?? undefined;
}

/** The count with another tree and, where it is given, other anchors; what no wave uses any more goes. */
function withRoot(mark: Counted, root: Wave): Counted {
  const { anchors, root: node } = anchorsOf(root);
  return { ...mark, anchors, props: { ...mark.props, root: node } };
}

function changed(root: Wave, at: readonly number[], change: (wave: Wave) => Wave | undefined): Wave {
  if (at.length === 0) return change(root) ?? root;
  const [first, ...rest] = at;
  return {
    ...root,
    inner: root.inner.map((child, i) =>
      i !== first ? child : rest.length === 0 ? child && change(child) : child && changed(child, rest, change),
    ),
  };
}

/**
 * Labels the inside of a wave: of a finished one the turns between its ends, of the one in progress the turns since its
 * start. What was said of its inside before is replaced. `at` ends with the wave that is opened.
 */
export function labelInside(mark: Counted, at: readonly number[], pattern: Pattern, turns: readonly Anchor[]): Counted {
  const parent = at.slice(0, -1);
  const wave = at[at.length - 1];
  const root = waveOf(mark.anchors, mark.props.root);
  return withRoot(
    mark,
    changed(root, parent, (one) => {
      const [start, end] = [one.pivots[wave], one.pivots[wave + 1]];
      const pivots = [start, ...turns, ...(end ? [end] : [])]
        .sort((a, b) => a.time - b.time)
        .slice(0, PATTERNS[pattern].labels.length + 1);
      const inner = PATTERNS[pattern].labels.map(() => undefined);
      return { ...one, inner: one.inner.map((child, i) => (i === wave ? { pattern, pivots, inner } : child)) };
    }),
  );
}

/** Puts a whole wave, such as the machine's, inside another; its ends become those of the wave it fills. */
export function fillInside(mark: Counted, at: readonly number[], inside: Wave): Counted {
  const wave = at[at.length - 1];
  return withRoot(
    mark,
    changed(waveOf(mark.anchors, mark.props.root), at.slice(0, -1), (one) => {
      const ends = [
        [inside.pivots[0], one.pivots[wave]] as const,
        ...(isComplete(inside) ? [[inside.pivots[inside.pivots.length - 1], one.pivots[wave + 1]] as const] : []),
      ];
      const moved = (pivot: Pivot) =>
        ends.find(([from]) => from.time === pivot.time && from.price === pivot.price)?.[1] ?? pivot;
      const aligned = (part: Wave): Wave => ({
        ...part,
        pivots: part.pivots.map(moved),
        inner: part.inner.map((child) => child && aligned(child)),
      });
      return { ...one, inner: one.inner.map((child, i) => (i === wave ? aligned(inside) : child)) };
    }),
  );
}

/** The count once something of it was labelled on a rung: the finest of those is the one it is followed on. */
export function labelledOn(mark: Counted, rung: string): Counted {
  const finest = [mark.props.finest ?? mark.rung, rung].sort((a, b) => lengthOf(a) - lengthOf(b))[0];
  return finest === mark.rung ? mark : { ...mark, props: { ...mark.props, finest } };
}

/** Takes away what is said of the inside of a wave. */
export function clearInside(mark: Counted, at: readonly number[]): Counted {
  return withRoot(
    mark,
    changed(waveOf(mark.anchors, mark.props.root), at, () => undefined as never),
  );
}

/** Gives a wave another pattern over the same pivots; the inside of waves that the pattern has, too, stays. */
export function relabel(mark: Counted, at: readonly number[], pattern: Pattern): Counted {
  const most = PATTERNS[pattern].labels.length;
  return withRoot(
    mark,
    changed(waveOf(mark.anchors, mark.props.root), at, (one) => {
      const pivots = one.pivots.slice(0, most + 1);
      return {
        pattern,
        pivots,
        inner: PATTERNS[pattern].labels.map((_, i) => (i < pivots.length ? one.inner[i] : undefined)),
      };
    }),
  );
}

/**
 * A turn more of a wave, in order of time: after the last one it ends the wave in progress, between two the later
 * labels move on by one and what was said of their insides goes. Nothing changes where the wave is complete or the turn
 * comes before it.
 */
export function addPivot(mark: Counted, at: readonly number[], turn: Anchor): Counted {
  return withRoot(
    mark,
    changed(waveOf(mark.anchors, mark.props.root), at, (one) => {
      const place = one.pivots.findIndex(({ time }) => time >= turn.time);
      if (
        one.pivots.length > PATTERNS[one.pattern].labels.length ||
        place === 0 ||
        one.pivots[place]?.time === turn.time
      )
        return one;
      const before = place < 0 ? one.pivots.length : place;
      return {
        ...one,
        pivots: [...one.pivots.slice(0, before), turn, ...one.pivots.slice(before)],
        inner: keptInner(one, before),
      };
    }),
  );
}

/**
 * A wave without one of its turns but its start: the later labels move back by one, what was said of their insides
 * goes.
 */
export function removePivot(mark: Counted, at: readonly number[], pivot: number): Counted {
  return withRoot(
    mark,
    changed(waveOf(mark.anchors, mark.props.root), at, (one) =>
      pivot < 1 || one.pivots.length < 3
        ? one
        : { ...one, pivots: one.pivots.filter((_, i) => i !== pivot), inner: keptInner(one, pivot) },
    ),
  );
}

/** The insides of the waves that end before a pivot. */
function keptInner({ inner }: Wave, pivot: number): Wave["inner"] {
  return inner.map((child, i) => (i < pivot - 1 ? child : undefined));
}

/** A count as it was up to pivot `last` of a wave: what came after is taken away, inside it, too. */
export function cutAfter(mark: Counted, at: readonly number[], last: number): Counted {
  return withRoot(
    mark,
    changed(waveOf(mark.anchors, mark.props.root), at, (one) => {
      const pivots = one.pivots.slice(0, Math.max(1, last + 1));
      return { ...one, pivots, inner: one.inner.map((child, i) => (i < pivots.length - 1 ? child : undefined)) };
    }),
  );
}
