import type { AnchoredAverageProps, AnchoredAverageState } from "#core/marks/measuring/anchoredAverage";
import { priceText } from "#core/marks/wording";
import type { Draw } from "../drawing.ts";

/** The average as a line through what was kept of it, and one deviation about it in fine dots. */
export const drawAnchoredAverage: Draw<AnchoredAverageProps, AnchoredAverageState> = (mark, life, context) => {
  const { scale, indexOf, selected, market, last, origin } = context;
  const { places, mean, weights, squares, bars } = life.state;
  if (bars === 0) return [];
  const pigment = life.dead ? "ink3" : "verdigris";
  const now = { x: scale.x(last), mean, reach: weights > 0 ? Math.sqrt(squares / weights) : 0 };
  const points = places.map(([time, value, reach]) => ({ x: scale.x(indexOf(time)), mean: value, reach }));
  if (now.x > (points.at(-1)?.x ?? -Infinity)) points.push(now);
  const path = (times: number) => points.flatMap(({ x, mean: value, reach }) => [x, scale.y(value + times * reach)]);
  return [
    { kind: "path", paths: [path(0)], stroke: pigment, width: selected ? 2 : 1.4 },
    { kind: "path", paths: [path(1), path(-1)], stroke: pigment, width: 0.8, dash: [1, 4] },
    {
      ...{
        kind: "text",
        x: now.x + 4,
        y: scale.y(mean),
        color: pigment,
        size: 11,
        movable: true,
        baseline: "middle",
      },
      ...{ text: `average since${origin ? ` ${origin}` : ""}  ${priceText(mean, market)}`, halo: "paper" },
    },
  ];
};
