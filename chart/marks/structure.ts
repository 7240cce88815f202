import type { StructureProps, StructureState } from "#core/marks/structure";
import type { Draw } from "./drawing.ts";

/** From the swing to the bar that went beyond it, with its name; a shift is heavier, a sweep dotted. */
export const drawStructure: Draw<StructureProps, StructureState> = (
  mark,
  life,
  { scale, indexOf, selected, origin },
) => {
  const [a, b] = mark.anchors.map(({ time }) => scale.x(indexOf(time)));
  const y = Math.round(scale.y(mark.anchors[0].price)) + 0.5;
  const { event, direction } = mark.props;
  const pigment = life.dead ? "ink3" : "slate";
  const up = direction === "up";
  return [
    {
      kind: "path",
      paths: [[a, y, b, y]],
      stroke: pigment,
      width: (event === "shift" ? 2 : 1.2) + (selected ? 0.8 : 0),
      ...(event === "sweep" ? { dash: [2, 3] } : {}),
    },
    {
      kind: "text",
      x: (a + b) / 2,
      y: up ? y - 3 : y + 3,
      text: [`${event} ${direction}`, origin, life.status === "stands" ? "" : life.status].filter(Boolean).join(", "),
      color: pigment,
      size: 11.5,
      movable: true,
      align: "center",
      baseline: up ? "bottom" : "top",
      halo: "paper",
    },
  ];
};
