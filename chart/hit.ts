import { boxOf } from "./labels.ts";
import type { Shape } from "./shapes.ts";

/** Whether a point is within `reach` pixels of anything drawn: a line, an outline, or the box of a text. */
export function hits(shapes: readonly Shape[], x: number, y: number, reach: number): boolean {
  return shapes.some((shape) => {
    if (shape.kind === "text") {
      const { left, right, top, bottom } = boxOf(shape);
      return x >= left && x <= right && y >= top && y <= bottom;
    }
    return shape.paths.some((path) => {
      for (let i = 2; i < path.length; i += 2)
        if (distanceTo(path[i - 2], path[i - 1], path[i], path[i + 1], x, y) <= reach) return true;
      return false;
    });
  });
}

/** Distance of a point from a segment. */
export function distanceTo(ax: number, ay: number, bx: number, by: number, x: number, y: number): number {
  const length = (bx - ax) ** 2 + (by - ay) ** 2;
  const along = length === 0 ? 0 : Math.max(0, Math.min(1, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / length));
  return Math.hypot(ax + along * (bx - ax) - x, ay + along * (by - ay) - y);
}
