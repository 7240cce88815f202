import type { FittedLevelProps } from "#core/marks/fittedLevel";
import type { LevelState } from "#core/marks/level";
import type { Draw } from "./drawing.ts";
import { drawLevel } from "./level.ts";

/** A level whose window, where the wicks were counted, is drawn heavier and closed by short ends. */
export const drawFittedLevel: Draw<FittedLevelProps, LevelState> = (mark, life, context) => {
  const { scale, indexOf } = context;
  const [a, b] = mark.anchors.map(({ time, price }) => ({
    x: scale.x(indexOf(time)),
    y: Math.round(scale.y(price)) + 0.5,
  }));
  const level = drawLevel({ ...mark, props: { label: mark.props.label || "fitted level" } }, life, context);
  const ends = [a, b].map(({ x, y }) => [x, y - 4, x, y + 4]);
  return [
    ...level,
    { kind: "path", paths: [[a.x, a.y, b.x, a.y], ...ends], stroke: life.dead ? "ink3" : "slate", width: 2.2 },
  ];
};
