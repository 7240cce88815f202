import { inOrder } from "#core/marks/measuring/lines";
import type { DivergenceProps, DivergenceState } from "#core/marks/measuring/divergence";
import type { Draw } from "../drawing.ts";

/** The two swings joined, and what the study was at each: price and study side by side in numbers. */
export const drawDivergence: Draw<DivergenceProps, DivergenceState> = (mark, life, context) => {
  const { scale, indexOf, selected } = context;
  const [a, b] = inOrder(mark.anchors).map(({ time, price }) => ({
    x: scale.x(indexOf(time, price)),
    y: scale.y(price),
  }));
  const pigment = life.dead ? "ink3" : "slate";
  const isUp = life.state.direction === "up";
  const away = isUp ? 6 : -6;
  const line = [a.x, a.y + away, b.x, b.y + away];
  const values = mark.props.values?.map((value) => Number(value.toPrecision(3)).toString().replace("-", "\u2212"));
  const said = life.dead ? `, ${life.status}` : "";
  return [
    { kind: "path", paths: [line], stroke: pigment, width: selected ? 2 : 1.3, ...(life.dead ? { dash: [2, 4] } : {}) },
    {
      ...{
        kind: "text",
        x: (a.x + b.x) / 2,
        y: (a.y + b.y) / 2 + away * 1.5,
        color: pigment,
        size: 11,
        align: "center",
      },
      text: `${mark.props.study.toUpperCase().slice(0, 12)} ${values ? values.join(" \u2192 ") : ""}${said}`,
      ...{ movable: true, baseline: isUp ? "top" : "bottom", halo: "paper" },
    },
  ];
};
