import { textWidth, type Shape } from "./shapes.ts";

/** Whether a point is within `reach` pixels of anything drawn: a line, an outline, or the box of a text. */
export function hits(shapes: readonly Shape[], x: number, y: number, reach: number): boolean {
  return shapes.some((shape) => {
    if (shape.kind === "text") {
      const size = shape.size ?? 12;
      const width = textWidth(shape.text, size);
      const left = shape.align === "right" ? shape.x - width : shape.align === "center" ? shape.x - width / 2 : shape.x;
      const top = shape.baseline === "bottom" ? shape.y - size : shape.baseline === "top" ? shape.y : shape.y - size / 2;
      return x >= left && x <= left + width && y >= top && y <= top + size;
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
