import type { RetracementProps, RetracementState } from "#core/marks/retracement";
import { percentText, priceText } from "#core/marks/wording";
import { legOf, retracement } from "#core/projections/retracement";
import type { Shape } from "../shapes.ts";
import type { Draw } from "./drawing.ts";

/** The leg as a thin line, each share as a line from the leg's end on, with its price; no bands of colour. */
export const drawRetracement: Draw<RetracementProps, RetracementState> = (mark, life, context) => {
  const { scale, market, indexOf, selected, origin } = context;
  if (mark.anchors.length < 2) return [];
  const { from, to } = legOf(mark.anchors[0], mark.anchors[1]);
  const pigment = life.dead ? "ink3" : "verdigris";
  const start = scale.x(indexOf(from.time));
  const end = scale.x(indexOf(to.time));
  const right = Math.min(scale.plot.left + scale.plot.width, Math.max(end, scale.x(context.last)) + 60);
  const leg = [start, scale.y(from.price), end, scale.y(to.price)];
  const out: Shape[] = [{ kind: "path", paths: [leg], stroke: pigment, width: selected ? 1.8 : 1, dash: [5, 3] }];
  const lines: number[][] = [];
  for (const { ratio, price } of retracement(from, to, mark.props.ratios)) {
    const y = Math.round(scale.y(price)) + 0.5;
    lines.push([end, y, right, y]);
    out.push({
      kind: "text",
      x: Math.max(end, scale.plot.left) + 4,
      y: y - 2,
      text: `${percentText(ratio)}${origin ? ` ${origin}` : ""}  ${priceText(price, market)}`,
      color: pigment,
      size: 11,
      movable: true,
      slides: right - end - 100,
      baseline: "bottom",
      halo: "paper",
    });
  }
  out.push({
    kind: "path",
    paths: lines,
    stroke: pigment,
    width: selected ? 1.4 : 0.9,
    ...(life.dead ? { dash: [2, 4] } : {}),
  });
  return out;
};
