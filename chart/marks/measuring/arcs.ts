import { arcAt, type ArcsProps, type ArcsState } from "#core/marks/measuring/arcs";
import { inOrder } from "#core/marks/measuring/lines";
import { percentText } from "#core/marks/wording";
import type { Shape } from "../../shapes.ts";
import type { Draw } from "../drawing.ts";

/** Points an arc is drawn with. */
const POINTS = 48;

/** The leg, and about its end the arcs on the side it came from; one that price has left is dotted. */
export const drawArcs: Draw<ArcsProps, ArcsState> = (mark, life, context) => {
  const { scale, indexOf, selected, origin } = context;
  const leg = inOrder(mark.anchors);
  const [a, b] = leg.map(({ time, price }) => ({ index: indexOf(time, price), price }));
  const span = b.index - a.index;
  if (span <= 0 || life.state.length === 0) return [];
  const pigment = life.dead ? "ink3" : "verdigris";
  // On another rung the leg has other bars: the arcs keep their shape on the paper.
  const own = Math.sqrt(Math.max(0, life.state.length ** 2 - ((b.price - a.price) / life.state.perBar) ** 2)) || span;
  const stretch = span / own;
  const out: Shape[] = [
    {
      ...{ kind: "path", paths: [[scale.x(a.index), scale.y(a.price), scale.x(b.index), scale.y(b.price)]] },
      ...{ stroke: pigment, width: selected ? 1.8 : 1, dash: [5, 3] },
    },
  ];
  mark.props.ratios.forEach((ratio, n) => {
    const radius = ratio * life.state.length;
    const path: number[] = [];
    for (let i = 0; i <= POINTS; i++) {
      // Even in angle: the ends would be cut off by even bars.
      const bars = Math.min(radius, radius * Math.sin((Math.PI * i) / (2 * POINTS)));
      const price = arcAt(leg, life.state, ratio, bars);
      if (price !== undefined) path.push(scale.x(b.index + bars * stretch), scale.y(price));
    }
    const isLeft = life.state.left[n] !== null;
    const color = isLeft ? "ink3" : pigment;
    out.push(
      { kind: "path", paths: [path], stroke: color, width: selected ? 1.5 : 1, ...(isLeft ? { dash: [2, 4] } : {}) },
      {
        ...{ kind: "text", x: path[0] + 3, y: path[1], text: `arc ${percentText(ratio)}${origin ? ` ${origin}` : ""}` },
        ...{ color, size: 11, movable: true, baseline: "bottom", halo: "paper" },
      },
    );
  });
  return out;
};
