import type { Plot } from "./scale.ts";
import type { PathShape, Shape } from "./shapes.ts";

/**
 * Lines and figures of one style as one shape, where the first of them stood, and nothing that lies wholly outside the
 * plot: a frame costs by its shapes. Texts stay as they are, in front.
 */
export function batch(shapes: readonly Shape[], plot: Plot): Shape[] {
  const byStyle = new Map<string, PathShape>();
  const texts: Shape[] = [];
  for (const shape of shapes) {
    if (shape.kind === "text") {
      texts.push(shape);
      continue;
    }
    const paths = shape.paths.filter((path) => inSight(path, plot));
    if (paths.length === 0) continue;
    const { stroke, fill, width, dash, opacity, closed } = shape;
    const style = `${stroke} ${fill} ${width} ${dash?.join(",")} ${opacity} ${closed}`;
    const before = byStyle.get(style);
    if (before) for (const path of paths) before.paths.push(path);
    else byStyle.set(style, { ...shape, paths });
  }
  return [...byStyle.values(), ...texts];
}

/** Pixels a stroke or a corner may reach over its path. */
const REACH = 12;

function inSight(path: readonly number[], { left, top, width, height }: Plot): boolean {
  let [minX, maxX, minY, maxY] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let i = 0; i < path.length; i += 2) {
    if (path[i] < minX) minX = path[i];
    if (path[i] > maxX) maxX = path[i];
    if (path[i + 1] < minY) minY = path[i + 1];
    if (path[i + 1] > maxY) maxY = path[i + 1];
  }
  return maxX >= left - REACH && minX <= left + width + REACH && maxY >= top - REACH && minY <= top + height + REACH;
}
