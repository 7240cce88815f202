import type { LevelProps, LevelState } from "#core/marks/level";
import { priceText } from "#core/marks/wording";
import type { Draw } from "./drawing.ts";

/** A line from the bar it was placed on to the right edge; broken ones are grey and dotted. */
export const drawLevel: Draw<LevelProps, LevelState> = (mark, life, { scale, market, indexOf, selected, origin }) => {
  const y = Math.round(scale.y(mark.anchors[0].price)) + 0.5;
  const left = Math.max(scale.plot.left, scale.x(indexOf(mark.anchors[0].time)));
  const right = scale.plot.left + scale.plot.width;
  const pigment = life.dead ? "ink3" : "slate";
  const name = [mark.props.label || "level", origin, life.status === "fresh" ? "" : life.status].filter(Boolean);
  return [
    {
      kind: "path",
      paths: [[left, y, right, y]],
      stroke: pigment,
      width: selected ? 2 : 1.2,
      ...(life.dead ? { dash: [2, 4] } : {}),
    },
    {
      kind: "text",
      x: right - 6,
      y: y - 3,
      text: `${name.join(", ")} ${priceText(mark.anchors[0].price, market)}`,
      color: pigment,
      size: 11.5,
      movable: true,
      slides: right - left - 120,
      align: "right",
      baseline: "bottom",
      halo: "paper",
    },
  ];
};
