import type { LineInk } from "#core/studies/study";
import type { PathShape, Shape } from "../shapes.ts";
import { visibleColumn, type ColumnSlice } from "./column.ts";

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

const INKS: Readonly<Record<"second" | "third" | "edge", Stroke>> = {
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
 * A line through its values, `ahead` bars later than they are of; broken where there are none and, where they hold for
 * periods (`steps`), at every change.
 */
export function drawLine(values: Float64Array, grid: Grid, stroke: Stroke, ahead = 0, steps = false): Shape {
  const slice = visibleColumn(values, grid.from - ahead, grid.to - ahead, grid.width);
  if (slice.step > 1) return denseLine(slice, grid, stroke, ahead);
  return { kind: "path", paths: linePaths(slice, grid, ahead, steps), ...stroke };
}

function linePaths({ lows, start }: ColumnSlice, grid: Grid, ahead: number, steps: boolean): number[][] {
  const paths: number[][] = [];
  const half = (grid.x(1) - grid.x(0)) / 2;
  let path: number[] = [];
  const end = () => {
    if (path.length > 2) paths.push(path);
    path = [];
  };
  let before = NaN;
  for (let n = 0; n < lows.length; n++) {
    const value = lows[n];
    if (Number.isNaN(value) || (steps && value !== before)) end();
    before = value;
    if (Number.isNaN(value)) continue;
    const x = grid.x(start + ahead + n);
    if (steps) path.push(x - half, grid.y(value));
    path.push(x + (steps ? half : 0), grid.y(value));
  }
  end();
  return paths;
}

/**
 * Where a pixel holds several bars: an upright stroke from the lowest to the highest of them, which meets the one
 * before. One path that goes to and fro over itself would take a painter without a graphics card a hundred times as
 * long; a pattern is made by leaving strokes out.
 */
function denseLine({ lows, highs, start, step }: ColumnSlice, grid: Grid, stroke: Stroke, ahead: number): Shape {
  const { dash = [], ...plain } = stroke;
  const cycle = dash.reduce((sum, one) => sum + one, 0);
  const isOn = (x: number) => {
    let at = cycle > 0 ? x % cycle : 0;
    for (let i = 0; i < dash.length; i++) {
      if (at < dash[i]) return i % 2 === 0;
      at -= dash[i];
    }
    return true;
  };
  const paths: number[][] = [];
  let [lowest, highest] = [NaN, NaN];
  for (let n = 0; n < lows.length; n++) {
    const [low, high] = [lows[n], highs[n]];
    const x = Math.round(grid.x(start + ahead + (n + 0.5) * step - 0.5)) + 0.5;
    const bottom = grid.y(low > highest ? highest : low);
    const top = grid.y(high < lowest ? lowest : high);
    [lowest, highest] = [low, high];
    if (!Number.isNaN(low) && isOn(x)) paths.push([x, top - 0.5, x, bottom + 0.5]);
  }
  // One pixel wide on whole pixels: anything else is painted by its outline.
  return { kind: "path", paths, ...plain, width: 1 };
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
  const place = (n: number) => grid.x(one.start + ahead + (n + 0.5) * one.step - 0.5);
  const count = Math.min(one.lows.length, other.lows.length);
  const ink = { opacity: 0.055 } as const;
  if (one.step > 1) {
    const paths: number[][] = [];
    for (let n = 0; n < count; n++) {
      const [p, q] = [grid.y((one.lows[n] + one.highs[n]) / 2), grid.y((other.lows[n] + other.highs[n]) / 2)];
      if (!Number.isNaN(p + q)) paths.push([place(n), p, place(n), q]);
    }
    return { kind: "path", paths, stroke: "ink", width: place(1) - place(0), ...ink };
  }
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
  for (let n = 0; n < count; n++) {
    if (Number.isNaN(one.lows[n] + other.lows[n])) {
      end();
      continue;
    }
    there.push(place(n), grid.y(one.lows[n]));
    back.push(place(n), grid.y(other.lows[n]));
  }
  end();
  return { kind: "path", paths, fill: "ink", closed: true, ...ink };
}
