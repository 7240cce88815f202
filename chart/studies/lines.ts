import type { LineInk } from "#core/studies/study";
import type { PathShape, Shape } from "../shapes.ts";
import { visibleColumn } from "./column.ts";

/** Where bars and values lie in pixels. */
export interface Grid {
  x(index: number): number;
  y(value: number): number;
  from: number;
  to: number;
  width: number;
}

/** Ink of another weight and pattern; never a pigment, for a study is data. */
export type Stroke = Pick<PathShape, "stroke" | "width" | "dash" | "opacity">;

const INKS: Readonly<Record<Exclude<LineInk, "columns" | "none">, Stroke>> = {
  main: { stroke: "ink2", width: 1.2 },
  second: { stroke: "ink3", width: 1, dash: [5, 3] },
  third: { stroke: "ink3", width: 1, dash: [1.5, 3] },
  edge: { stroke: "ink3", width: 0.9 },
};

/** Of several main lines among the prices each has a pattern of its own, in this order. */
const PATTERNS: readonly Stroke[] = [
  { stroke: "ink2", width: 1.3 },
  { stroke: "ink2", width: 1.2, dash: [8, 3] },
  { stroke: "ink2", width: 1.3, dash: [2, 3] },
  { stroke: "ink2", width: 1.2, dash: [9, 3, 2, 3] },
  { stroke: "ink3", width: 2.2, opacity: 0.5 },
  { stroke: "ink3", width: 2.2, dash: [8, 4], opacity: 0.5 },
];

/** How a line is drawn; the main ones of studies among the prices by their order there. */
export function strokeOf(ink: LineInk, order: number): Stroke {
  if (ink === "main") return PATTERNS[order % PATTERNS.length];
  return INKS[ink as keyof typeof INKS];
}

/**
 * A line through its values, `ahead` bars later than they are of; broken where there are none, and where `steps` hold
 * for periods, at every change. Where a pixel holds several bars it is drawn from the lowest to the highest of them.
 */
export function linePaths(values: Float64Array, grid: Grid, ahead = 0, steps = false): number[][] {
  const { lows, highs, start, step } = visibleColumn(values, grid.from - ahead, grid.to - ahead, grid.width);
  const paths: number[][] = [];
  let path: number[] = [];
  const end = () => {
    if (path.length > 2) paths.push(path);
    path = [];
  };
  let before = NaN;
  for (let n = 0; n < lows.length; n++) {
    const [low, high] = [lows[n], highs[n]];
    if (Number.isNaN(low)) {
      end();
      continue;
    }
    if (steps && low !== before) end();
    const x = grid.x(start + ahead + (n + 0.5) * step - 0.5);
    if (steps && step === 1) path.push(x - (grid.x(1) - grid.x(0)) / 2, grid.y(low));
    // The nearer end first, so that the line does not go back on itself.
    const [first, second] = Math.abs(low - before) <= Math.abs(high - before) ? [low, high] : [high, low];
    path.push(x, grid.y(first));
    if (second !== first) path.push(x, grid.y(second));
    before = second;
  }
  end();
  return paths;
}

/** Upright strokes from `base`: bars of values. */
export function columnPaths(values: Float64Array, grid: Grid, base: number): number[][] {
  const { lows, highs, start, step } = visibleColumn(values, grid.from, grid.to, grid.width);
  const foot = grid.y(base);
  const paths: number[][] = [];
  for (let n = 0; n < lows.length; n++) {
    if (Number.isNaN(lows[n])) continue;
    const x = Math.round(grid.x(start + (n + 0.5) * step - 0.5)) + 0.5;
    const [low, high] = [Math.min(lows[n], base), Math.max(highs[n], base)];
    paths.push(high > base ? [x, low < base ? grid.y(low) : foot, x, grid.y(high)] : [x, foot, x, grid.y(low)]);
  }
  return paths;
}

/** A pale band of ink between two lines, in pieces where either has no value. */
export function bandBetween(a: Float64Array, b: Float64Array, grid: Grid, ahead = 0): Shape {
  const [one, other] = [a, b].map((values) => visibleColumn(values, grid.from - ahead, grid.to - ahead, grid.width));
  const paths: number[][] = [];
  let [there, back]: [number[], number[]] = [[], []];
  const end = () => {
    if (there.length > 2) {
      const returned: number[] = [];
      for (let i = back.length - 2; i >= 0; i -= 2) returned.push(back[i], back[i + 1]);
      paths.push([...there, ...returned]);
    }
    [there, back] = [[], []];
  };
  for (let n = 0; n < Math.min(one.lows.length, other.lows.length); n++) {
    const [p, q] = [(one.lows[n] + one.highs[n]) / 2, (other.lows[n] + other.highs[n]) / 2];
    if (Number.isNaN(p + q)) {
      end();
      continue;
    }
    const x = grid.x(one.start + ahead + (n + 0.5) * one.step - 0.5);
    there.push(x, grid.y(p));
    back.push(x, grid.y(q));
  }
  end();
  return { kind: "path", paths, fill: "ink", opacity: 0.055, closed: true };
}
