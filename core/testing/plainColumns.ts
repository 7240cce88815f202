import type { Series } from "#core/series/series";

/**
 * A second way to columns and their counts that shares nothing with the first: fixed boxes alone, every box kept as a
 * row of its own, bases and states found by looking at all of them again. For tests; quadratic.
 */
export interface PlainTarget {
  kind: "vertical" | "horizontal";
  direction: "up" | "down";
  from: number;
  count: number;
  target: number;
  state: string;
  knownAt: number;
  forceAt?: number;
  metAt?: number;
  negatedAt?: number;
}

interface PlainBox {
  column: number;
  level: number;
  bar: number;
}

export function plainColumns(
  { high, low, length }: Pick<Series, "high" | "low" | "length">,
  box: number,
  reversal: number,
): { boxes: PlainBox[]; rising: boolean[] } {
  const boxes: PlainBox[] = [];
  const rising: boolean[] = [];
  const levels = (column: number) => boxes.filter((one) => one.column === column).map(({ level }) => level);
  const fill = (column: number, from: number, to: number, bar: number) => {
    for (let level = from; from <= to ? level <= to : level >= to; level += from <= to ? 1 : -1)
      boxes.push({ column, level, bar });
  };
  for (let i = 0; i < length; i++) {
    const up = Math.floor(high[i] / box + 1e-9);
    const down = Math.ceil(low[i] / box - 1e-9);
    const column = rising.length - 1;
    if (column < 0) {
      const before = Array.from({ length: i }, (_, k) => k);
      const bottom = Math.min(...before.map((k) => Math.ceil(low[k] / box - 1e-9)));
      const top = Math.max(...before.map((k) => Math.floor(high[k] / box + 1e-9)));
      const [rises, falls] = [up >= bottom + reversal, down <= top - reversal];
      if (i > 0 && rises !== falls) {
        rising.push(rises);
        if (rises) fill(0, bottom + 1, up, i);
        else fill(0, top - 1, down, i);
      }
      continue;
    }
    const [bottom, top] = [Math.min(...levels(column)), Math.max(...levels(column))];
    if (rising[column]) {
      if (up > top) fill(column, top + 1, up, i);
      else if (down <= top - reversal) {
        rising.push(false);
        fill(column + 1, top - 1, down, i);
      }
    } else if (down < bottom) fill(column, bottom - 1, down, i);
    else if (up >= bottom + reversal) {
      rising.push(true);
      fill(column + 1, bottom + 1, up, i);
    }
  }
  return { boxes, rising };
}

/** Counts over boxes, level by level; `sign` -1 looks at them upside down. */
function counted(
  boxes: readonly PlainBox[],
  rising: readonly boolean[],
  reversal: number,
  least: number,
  sign: number,
) {
  const seen = boxes.map((one) => ({ ...one, level: one.level * sign }));
  const isUp = (column: number) => rising[column] === sign > 0;
  const until = (n: number, column: number) => seen.slice(0, n).filter((one) => one.column === column);
  const targets: (PlainTarget & { at: number })[] = [];
  seen.forEach((one, n) => {
    const { column: c, level: j, bar } = one;
    const isFirst = n === 0 || seen[n - 1].column !== c;
    if (isFirst && reversal === 3 && c > 1 && isUp(c - 1)) {
      const [thrust, fall, before] = [c - 1, c - 2, c - 4].map((k) => until(n, k).map(({ level }) => level));
      const extreme = Math.min(...fall);
      if (c - 4 < 0 || extreme < Math.min(...before)) {
        const target = extreme + thrust.length * 3;
        const later = seen.slice(n);
        const force = later.find(({ level }) => level > Math.max(...thrust));
        targets.push({ ...told("vertical", extreme, thrust.length, target, bar, seen, n, force?.bar), at: n });
      }
    }
    if (!isUp(c)) return;
    const backTo = (level: number) => {
      let b = c;
      while (b > 0 && until(n, b - 1).every((box) => box.level < level)) b--;
      return b;
    };
    const [b, before] = [backTo(j), isFirst ? c : backTo(j - 1)];
    const w = c - b + 1;
    if (b >= before || b === 0 || w < least) return;
    const base = seen.slice(0, n + 1).filter(({ column }) => column >= b);
    const extreme = Math.min(...base.map(({ level }) => level));
    const target = extreme + w * reversal;
    if (target > j) targets.push({ ...told("horizontal", extreme, w, target, bar, seen, n, bar), at: n });
  });
  return targets.map((one) => ({
    ...one,
    direction: sign > 0 ? ("up" as const) : ("down" as const),
    ...{ from: one.from * sign, target: one.target * sign },
  }));
}

function told(
  kind: PlainTarget["kind"],
  from: number,
  count: number,
  target: number,
  knownAt: number,
  seen: readonly PlainBox[],
  n: number,
  forceAt: number | undefined,
): PlainTarget {
  // A bar adds boxes to one column, so whichever comes first among the boxes came first.
  const first = seen.slice(n).findIndex(({ level }) => level >= target || level < from);
  const end = first < 0 ? undefined : seen[n + first];
  const isMet = end !== undefined && end.level >= target;
  const isForced =
    forceAt !== undefined && (end === undefined || forceAt <= end.bar) && (isMet || forceAt !== end?.bar);
  return {
    ...{ kind, direction: "up", from, count, target, knownAt },
    state: end ? (isMet ? "met" : "negated") : isForced ? "in force" : "waiting",
    ...(isForced || kind === "horizontal" ? { forceAt } : {}),
    ...(end ? { [isMet ? "metAt" : "negatedAt"]: end.bar } : {}),
  };
}

/** Targets in the order they became known: at one bar the vertical first, then box by box. */
export function plainTargets(
  series: Pick<Series, "high" | "low" | "length">,
  box: number,
  reversal: number,
  least = 5,
): PlainTarget[] {
  const { boxes, rising } = plainColumns(series, box, reversal);
  return [1, -1]
    .flatMap((sign) => counted(boxes, rising, reversal, least, sign))
    .sort(
      (a, b) =>
        a.knownAt - b.knownAt || Number(a.kind === "horizontal") - Number(b.kind === "horizontal") || a.at - b.at,
    )
    .filter(({ target }) => target > 0)
    .map(({ at: _, ...target }) => target);
}
