import { boxOf } from "./labels.ts";
import type { Plot } from "./scale.ts";
import type { Shape, TextShape } from "./shapes.ts";

/**
 * Pixels that what is drawn may reach over the plot: more than any stroke is wide, so that no cut edge is ever seen.
 */
export const REACH = 12;

/** Longest text that is drawn: the rest of a longer one could not be read anyway. */
const LONGEST = 240;

interface Box {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/**
 * Shapes cut to the plot: lines and figures lose what lies outside, texts that do not reach into it are left out. What
 * is no number is not drawn. A painter of pixels may fail, and does, on coordinates far outside its canvas, and a view
 * may be zoomed in as far as one likes.
 */
export function bounded(shapes: readonly Shape[], plot: Plot): Shape[] {
  const box = boxOfPlot(plot);
  const out: Shape[] = [];
  for (const shape of shapes) {
    if (shape.kind === "text") {
      if (meets(shape, box))
        out.push(shape.text.length > LONGEST ? { ...shape, text: `${shape.text.slice(0, LONGEST)}\u2026` } : shape);
      continue;
    }
    const paths = cutPaths(shape.paths, shape.closed === true, box);
    if (paths.length > 0) out.push(paths === shape.paths ? shape : { ...shape, paths });
  }
  return out;
}

function boxOfPlot({ left, top, width, height }: Plot): Box {
  return { left: left - REACH, right: left + width + REACH, top: top - REACH, bottom: top + height + REACH };
}

/** Paths cut to a box; the very array when nothing has to be cut. */
function cutPaths(paths: number[][], closed: boolean, box: Box): number[][] {
  if (paths.length > 0 && paths.every((path) => path.length > 0 && placeOf(path, box) === "inside")) return paths;
  return paths.flatMap((path) => {
    const place = placeOf(path, box);
    if (place === "inside") return path.length === 0 ? [] : [path];
    if (place === "outside") return [];
    return closed ? cutFigure(path, box) : cutLine(path, box);
  });
}

function placeOf(path: readonly number[], { left, right, top, bottom }: Box): "inside" | "outside" | "across" {
  let [minX, maxX, minY, maxY] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let i = 0; i < path.length; i += 2) {
    const [x, y] = [path[i], path[i + 1]];
    if (Number.isNaN(x + y)) return "across";
    if (x < minX) minX = x;
    if (x > maxX) maxX = x;
    if (y < minY) minY = y;
    if (y > maxY) maxY = y;
  }
  if (minX >= left && maxX <= right && minY >= top && maxY <= bottom) return "inside";
  return maxX < left || minX > right || maxY < top || minY > bottom ? "outside" : "across";
}

/** The parts of an open line in a box, segment by segment (Liang and Barsky 1984, from memory). */
function cutLine(path: readonly number[], box: Box): number[][] {
  const out: number[][] = [];
  let open: number[] | undefined;
  for (let i = 2; i < path.length; i += 2) {
    const part = cutSegment(path[i - 2], path[i - 1], path[i], path[i + 1], box);
    if (!part) {
      open = undefined;
      continue;
    }
    const [ax, ay, bx, by] = part;
    if (open && open[open.length - 2] === ax && open[open.length - 1] === ay) open.push(bx, by);
    else out.push((open = [ax, ay, bx, by]));
  }
  return out;
}

function cutSegment(
  ax: number,
  ay: number,
  bx: number,
  by: number,
  { left, right, top, bottom }: Box,
): [number, number, number, number] | undefined {
  if (![ax, ay, bx, by].every(Number.isFinite)) return undefined;
  const [dx, dy] = [bx - ax, by - ay];
  let [from, to] = [0, 1];
  for (const [step, room] of [
    [-dx, ax - left],
    [dx, right - ax],
    [-dy, ay - top],
    [dy, bottom - ay],
  ]) {
    if (step === 0) {
      if (room < 0) return undefined;
      continue;
    }
    const at = room / step;
    if (step < 0) from = Math.max(from, at);
    else to = Math.min(to, at);
  }
  if (from > to) return undefined;
  // Rounding of far ends may leave a cut point a hair outside: it is put on the edge.
  const x = (share: number) => Math.max(left, Math.min(right, ax + share * dx));
  const y = (share: number) => Math.max(top, Math.min(bottom, ay + share * dy));
  return [from === 0 ? ax : x(from), from === 0 ? ay : y(from), to === 1 ? bx : x(to), to === 1 ? by : y(to)];
}

/** A closed figure cut by the four edges one after the other (Sutherland and Hodgman 1974, from memory). */
function cutFigure(path: readonly number[], { left, right, top, bottom }: Box): number[][] {
  let points: [number, number][] = [];
  for (let i = 0; i < path.length; i += 2)
    if (Number.isFinite(path[i]) && Number.isFinite(path[i + 1])) points.push([path[i], path[i + 1]]);
  const edges: { axis: 0 | 1; at: number; keeps: (value: number) => boolean }[] = [
    { axis: 0, at: left, keeps: (x) => x >= left },
    { axis: 0, at: right, keeps: (x) => x <= right },
    { axis: 1, at: top, keeps: (y) => y >= top },
    { axis: 1, at: bottom, keeps: (y) => y <= bottom },
  ];
  for (const { axis, at, keeps } of edges) {
    const cut: [number, number][] = [];
    points.forEach((point, i) => {
      const before = points[(i + points.length - 1) % points.length];
      if (keeps(point[axis]) !== keeps(before[axis])) cut.push(crossing(before, point, axis, at));
      if (keeps(point[axis])) cut.push(point);
    });
    points = cut;
  }
  // A crossing is rounded as well: what was cut on one edge may lie a hair beyond another.
  const inside = points.flatMap(([x, y]) => [Math.max(left, Math.min(right, x)), Math.max(top, Math.min(bottom, y))]);
  return points.length < 3 ? [] : [inside];
}

function crossing(
  a: readonly [number, number],
  b: readonly [number, number],
  axis: 0 | 1,
  at: number,
): [number, number] {
  const share = (at - a[axis]) / (b[axis] - a[axis]);
  const other = a[1 - axis] + share * (b[1 - axis] - a[1 - axis]);
  return axis === 0 ? [at, other] : [other, at];
}

function meets(text: TextShape, { left, right, top, bottom }: Box): boolean {
  const box = boxOf(text);
  return box.left <= right && box.right >= left && box.top <= bottom && box.bottom >= top;
}
