import { inOrder } from "#core/marks/measuring/lines";
import type { RegressionProps, RegressionState } from "#core/marks/measuring/regressionChannel";
import type { Draw } from "../drawing.ts";
import { straight } from "../straight.ts";

/** The line of least squares whole within its window and dashed beyond, its edges beside it; broken it is grey. */
export const drawRegressionChannel: Draw<RegressionProps, RegressionState> = (mark, life, context) => {
  const { scale, indexOf, selected, origin } = context;
  const [a, b] = inOrder(mark.anchors).map(({ time, price }) => ({ index: indexOf(time), price }));
  if (b.index <= a.index) return [];
  const perBar = (b.price - a.price) / (b.index - a.index);
  const line = (off: number) => straight(scale, a.index, (index) => a.price + perBar * (index - a.index) + off);
  const { reach } = life.state;
  const [middle, upper, lower] = [line(0), line(reach), line(-reach)];
  if (!middle || !upper || !lower) return [];
  const pigment = life.dead ? "ink3" : "slate";
  const dash = life.dead ? { dash: [2, 4] } : {};
  const name = ["regression", origin, life.dead ? life.status : ""].filter(Boolean).join(", ");
  return [
    { kind: "path", paths: [upper.path, lower.path], stroke: pigment, width: selected ? 1.8 : 1.1, ...dash },
    { kind: "path", paths: [middle.path], stroke: pigment, width: 0.9, dash: [8, 3, 2, 3] },
    {
      ...{ kind: "text", ...upper.label, text: name, color: pigment, size: 11.5 },
      ...{ movable: true, align: "right", baseline: "bottom", halo: "paper" },
    },
  ];
};
