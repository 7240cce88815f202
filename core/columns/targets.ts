import type { Column, ColumnStep } from "#core/columns/columns";
import { Heap } from "#core/levels/heap";

export type TargetState = "waiting" | "in force" | "met" | "negated";

/** A price counted from columns, in boxes of the grid; bars by index. */
export interface ColumnTarget {
  kind: "vertical" | "horizontal";
  isUp: boolean;
  /** The box it is counted from: beyond it the target is negated. */
  from: number;
  /** Boxes, or columns, that were counted. */
  count: number;
  target: number;
  state: TargetState;
  knownAt: number;
  /** Bar that began the first column it is counted from. */
  start: number;
  forceAt?: number;
  metAt?: number;
  negatedAt?: number;
}

/** A target as it is kept: `box` is where it is met, `from` where negated, both as if every target were upwards. */
interface Live {
  target: ColumnTarget;
  box: number;
}

/** Columns as one direction sees them: upwards as they stand, downwards upside down. */
interface Sight {
  sign: 1 | -1;
  /** Of each finished column: the first from which on all up to it stand below its top, and the lowest box of those. */
  base: { first: number; lowest: number }[];
  waiting: Heap<Live>;
  toMeet: Heap<Live>;
  toNegate: Heap<Live>;
}

const topOf = ({ bottom, top }: Column, sign: number) => (sign > 0 ? top : -bottom);
const lowOf = ({ bottom, top }: Column, sign: number) => (sign > 0 ? bottom : -top);

/**
 * Vertical and horizontal counts over columns. Horizontal: columns of the base x box x reversal, from its extreme (V.
 * de Villiers and O. Taylor, 1933); vertical: boxes of the first thrust x box x reversal (A. W. Cohen, 1947); both from
 * memory, and which columns make a base is our own. O(1) a box in the mean, O(log n) a target.
 */
export class ColumnTargets {
  readonly all: ColumnTarget[] = [];
  /** Those that the last step stated or changed. */
  changed: ColumnTarget[] = [];
  private readonly sights: readonly Sight[] = ([1, -1] as const).map((sign) => ({
    ...{ sign, base: [], waiting: new Heap<Live>(), toMeet: new Heap<Live>(), toNegate: new Heap<Live>() },
  }));
  /** The base behind the last column, as far as its boxes have come. */
  private open = { first: 0, lowest: 0 };

  constructor(
    private readonly columns: readonly Column[],
    private readonly reversal: number,
    /** Columns a base must have. */
    private readonly least: number,
    /** Whether a box is a price that can be. */
    private readonly isPrice: (box: number) => boolean,
  ) {}

  /** A step of the columns, made by bar `i`. */
  next(step: ColumnStep, i: number): void {
    this.changed = [];
    const { at } = step;
    const column = this.columns[at];
    const own = this.sights[column.isRising ? 0 : 1];
    const other = this.sights[column.isRising ? 1 : 0];
    if (step.isNew) {
      if (at > 0) for (const sight of this.sights) sight.base.push(this.walkBack(sight, at - 1));
      this.open = { first: at, lowest: lowOf(column, own.sign) };
      if (this.reversal === 3 && at > 0) this.vertical(other, at - 1, i);
    }
    this.horizontal(own, step, i);
    this.changed.push(...advance(own, topOf(column, own.sign), i), ...negate(other, lowOf(column, other.sign), i));
  }

  /** The base behind a column that has come to its end. */
  private walkBack({ sign, base }: Sight, at: number): { first: number; lowest: number } {
    const column = this.columns[at];
    const behind = { first: at, lowest: lowOf(column, sign) };
    this.extend(behind, base, sign, topOf(column, sign));
    return behind;
  }

  /** Takes columns before `behind` into it while their tops stand below `box`. */
  private extend(behind: { first: number; lowest: number }, base: Sight["base"], sign: number, box: number): void {
    while (behind.first > 0 && topOf(this.columns[behind.first - 1], sign) < box) {
      const before = base[behind.first - 1];
      behind.lowest = Math.min(behind.lowest, before.lowest);
      behind.first = before.first;
    }
  }

  /** A thrust off an extreme that went beyond the one before, known once the column after it begins. */
  private vertical(sight: Sight, at: number, i: number): void {
    const { sign } = sight;
    const column = this.columns[at];
    if (at < 1) return;
    const low = lowOf(this.columns[at - 1], sign);
    if (at >= 3 && low >= lowOf(this.columns[at - 3], sign)) return;
    const count = column.top - column.bottom + 1;
    this.state(sight, low, low + count * 3, topOf(column, sign), {
      ...{ kind: "vertical", count, state: "waiting", knownAt: i, start: column.start },
    });
  }

  /** Each box that takes a base further back states what the base counts for. */
  private horizontal(sight: Sight, { at, from, to }: ColumnStep, i: number): void {
    const { sign, base } = sight;
    const last = to * sign;
    let box = from * sign;
    while (box <= last) {
      const { first } = this.open;
      this.extend(this.open, base, sign, box);
      if (this.open.first === 0) return;
      const count = at - this.open.first + 1;
      const target = this.open.lowest + count * this.reversal;
      if (this.open.first < first && count >= this.least && target > box)
        this.state(sight, this.open.lowest, target, undefined, {
          ...{ kind: "horizontal", count, state: "in force", knownAt: i, forceAt: i },
          start: this.columns[this.open.first].start,
        });
      // The next box that takes the base further back; those between say nothing new.
      box = topOf(this.columns[this.open.first - 1], sign) + 1;
    }
  }

  private state(
    sight: Sight,
    from: number,
    box: number,
    trigger: number | undefined,
    said: Omit<ColumnTarget, "isUp" | "from" | "target">,
  ): void {
    const { sign } = sight;
    if (!this.isPrice(box * sign)) return;
    const target: ColumnTarget = { ...said, isUp: sign > 0, from: from * sign, target: box * sign };
    this.all.push(target);
    if (target.state === "in force") this.changed.push(target);
    const live = { target, box };
    if (trigger === undefined) sight.toMeet.push(box, live);
    else sight.waiting.push(trigger, live);
    sight.toNegate.push(-from, live);
  }
}

const isOver = ({ state }: ColumnTarget) => state === "met" || state === "negated";

/** Boxes up to `top`: what waited is in force above the thrust, what is in force is met at its price. */
function advance({ waiting, toMeet }: Sight, top: number, i: number): ColumnTarget[] {
  const changed = new Set<ColumnTarget>();
  while (waiting.least < top) {
    const live = waiting.pop()!;
    if (isOver(live.target)) continue;
    [live.target.state, live.target.forceAt] = ["in force", i];
    changed.add(live.target);
    toMeet.push(live.box, live);
  }
  while (toMeet.least <= top) {
    const { target } = toMeet.pop()!;
    if (isOver(target)) continue;
    [target.state, target.metAt] = ["met", i];
    changed.add(target);
  }
  return [...changed];
}

/** Boxes down to `low`: beyond its extreme a target is negated. */
function negate({ toNegate }: Sight, low: number, i: number): ColumnTarget[] {
  const changed: ColumnTarget[] = [];
  while (-toNegate.least > low) {
    const { target } = toNegate.pop()!;
    if (isOver(target)) continue;
    [target.state, target.negatedAt] = ["negated", i];
    changed.push(target);
  }
  return changed;
}
