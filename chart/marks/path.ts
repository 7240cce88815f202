import type { PathProps, PathState } from "#core/marks/path";
import { priceText } from "#core/marks/wording";
import type { Shape } from "../shapes.ts";
import type { Draw } from "./drawing.ts";

const HEAD = { length: 9, half: 4 };

/**
 * A line through the turns with a head at its end; what was reached is thin and dotted. Each turn ahead names its
 * price.
 */
export const drawPath: Draw<PathProps, PathState> = (
  { anchors, props },
  { state },
  { scale, market, indexOf, selected, origin },
) => {
  const points = anchors.map(({ time, price }) => ({ x: scale.x(indexOf(time)), y: scale.y(price) }));
  const flat = (from: number, to: number) => points.slice(from, to).flatMap(({ x, y }) => [x, y]);
  const ahead = Math.max(0, state.next - 1);
  const shapes: Shape[] = [];
  if (ahead > 0)
    shapes.push({ kind: "path", paths: [flat(0, ahead + 1)], stroke: "carmine", width: 1, dash: [2, 3], opacity: 0.7 });
  if (ahead < points.length - 1) {
    const [before, end] = points.slice(-2);
    const angle = Math.atan2(end.y - before.y, end.x - before.x);
    const corner = (side: 1 | -1) => [
      end.x - HEAD.length * Math.cos(angle) + side * HEAD.half * Math.sin(angle),
      end.y - HEAD.length * Math.sin(angle) - side * HEAD.half * Math.cos(angle),
    ];
    shapes.push(
      { kind: "path", paths: [flat(ahead, points.length)], stroke: "carmine", width: selected ? 2.2 : 1.5 },
      { kind: "path", paths: [[end.x, end.y, ...corner(1), ...corner(-1)]], fill: "carmine", closed: true },
    );
  }
  anchors.slice(state.next).forEach(({ price }, i) => {
    const { x, y } = points[state.next + i];
    const last = state.next + i === anchors.length - 1;
    const name = last ? [props.label || "path", origin].filter(Boolean).join(", ") : "";
    const up = price >= anchors[state.next + i - 1].price;
    shapes.push({
      kind: "text",
      x,
      y: y + (up ? -6 : 6),
      text: [name, priceText(price, market)].filter(Boolean).join(" "),
      color: "carmine",
      size: 11.5,
      movable: true,
      align: "center",
      baseline: up ? "bottom" : "top",
      halo: "paper",
    });
  });
  return shapes;
};
