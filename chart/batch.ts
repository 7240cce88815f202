import type { PathShape, Shape } from "./shapes.ts";

/**
 * Lines and figures of one style as one shape, where the first of them stood: a frame costs by its shapes. Texts stay
 * as they are, in front.
 */
export function batch(shapes: readonly Shape[]): Shape[] {
  const byStyle = new Map<string, PathShape>();
  const texts: Shape[] = [];
  for (const shape of shapes) {
    if (shape.kind === "text") {
      texts.push(shape);
      continue;
    }
    const { paths, stroke, fill, width, dash, opacity, closed } = shape;
    const style = `${stroke} ${fill} ${width} ${dash?.join(",")} ${opacity} ${closed}`;
    const before = byStyle.get(style);
    if (before) for (const path of paths) before.paths.push(path);
    else byStyle.set(style, { ...shape, paths: [...paths] });
  }
  return [...byStyle.values(), ...texts];
}
