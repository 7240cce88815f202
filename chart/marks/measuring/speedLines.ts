import { inOrder } from "#core/marks/measuring/lines";
import { speedLineAt, type SpeedLinesProps, type SpeedLinesState } from "#core/marks/measuring/speedLines";
import { percentText } from "#core/marks/wording";
import type { Shape } from "../../shapes.ts";
import type { Draw } from "../drawing.ts";
import { straight } from "../straight.ts";

/** The leg, and from its start a line through each share of it; one that was closed beyond is dotted. */
export const drawSpeedLines: Draw<SpeedLinesProps, SpeedLinesState> = (mark, life, context) => {
  const { scale, indexOf, selected, origin } = context;
  const leg = inOrder(mark.anchors);
  const [a, b] = leg.map(({ time, price }) => ({ index: indexOf(time, price), price }));
  const span = b.index - a.index;
  if (span <= 0) return [];
  const pigment = life.dead ? "ink3" : "verdigris";
  const path = [scale.x(a.index), scale.y(a.price), scale.x(b.index), scale.y(b.price)];
  return [
    { kind: "path", paths: [path], stroke: pigment, width: selected ? 1.8 : 1, dash: [5, 3] },
    ...mark.props.shares.flatMap((share, n): Shape[] => {
      const line = straight(scale, a.index, (index) => speedLineAt(leg, share, span, index - a.index));
      if (!line) return [];
      const isLeft = life.state.left[n] !== null;
      const color = isLeft ? "ink3" : pigment;
      return [
        {
          kind: "path",
          paths: [line.path],
          stroke: color,
          width: selected ? 1.5 : 1,
          ...(isLeft ? { dash: [2, 4] } : {}),
        },
        {
          ...{ kind: "text", ...line.label, text: `speed ${percentText(share)}${origin ? ` ${origin}` : ""}`, color },
          ...{ size: 11, movable: true, align: "right", baseline: "bottom", halo: "paper" },
        },
      ];
    }),
  ];
};
