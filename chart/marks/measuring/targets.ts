import type { MeasuredLine } from "#core/marks/measuring/lines";
import { inOrder } from "#core/marks/measuring/lines";
import { kindOf } from "#core/marks/registry";
import type { TargetProps, TargetState } from "#core/marks/measuring/targetKind";
import { priceText } from "#core/marks/wording";
import type { Mark } from "#core/marks/kind";
import type { Shape } from "../../shapes.ts";
import type { Draw, DrawContext } from "../drawing.ts";

/** How a line is drawn by how it stands: waiting is dashed, in force whole, met fine and ticked off, negated dotted. */
const DASHES: Partial<Record<MeasuredLine["state"], number[]>> = { waiting: [6, 4], negated: [2, 4], met: [1, 3] };

/**
 * What is laid off from a leg: the leg thin, each target as a line from the last anchor on with its ratio, price and
 * state, and the price that negates it as a dotted line of ink with a cross.
 */
export const drawTargets: Draw<TargetProps, TargetState> = (mark, life, context) => {
  const { scale, indexOf, market, selected } = context;
  const kind = kindOf(mark);
  const points = mark.anchors.map(({ time, price }) => ({ x: scale.x(indexOf(time, price)), y: scale.y(price) }));
  const start = Math.max(...points.map(({ x }) => x));
  const right = Math.min(scale.plot.left + scale.plot.width, Math.max(start, scale.x(context.last)) + 90);
  const pigment = life.dead ? "ink3" : "verdigris";
  const zigzag = points.flatMap(({ x, y }) => [x, y]);
  const out: Shape[] = [{ kind: "path", paths: [zigzag], stroke: pigment, width: selected ? 1.8 : 1, dash: [5, 3] }];
  const asMark = mark as unknown as Mark;
  for (const { name, price, state } of kind.lines?.(asMark, life) ?? []) {
    if (price === undefined) continue;
    const y = Math.round(scale.y(price)) + 0.5;
    const isOver = state === "met" || state === "negated";
    const color = isOver ? "ink3" : pigment;
    const dash = DASHES[state];
    out.push({
      ...{ kind: "path", paths: [[start, y, right, y]], stroke: color },
      ...{ width: selected ? 1.5 : state === "in force" ? 1.2 : 0.9, ...(dash ? { dash } : {}) },
    });
    const met = state === "met" ? "\u2713 " : "";
    const origin = context.origin ? ` ${context.origin}` : "";
    const said = state === "in force" || state === "met" ? "" : `, ${state}`;
    out.push({
      ...{ kind: "text", x: Math.max(start, scale.plot.left) + 4, y: y - 2, color, size: 11, baseline: "bottom" },
      text: `${met}${name}${origin}  ${priceText(price, market)}${said}`,
      ...{ movable: true, slides: right - start - 110, halo: "paper" },
    });
  }
  return [...out, ...wrongLine(mark, life.dead, right, context)];
};

/** The price the mark is laid against, where it is chosen: elsewhere it would be one line too many. */
function wrongLine(mark: Mark<TargetProps>, dead: boolean, right: number, context: DrawContext): Shape[] {
  const { scale, selected, indexOf } = context;
  if (!selected || dead) return [];
  const last = mark.kind === "projection" ? inOrder(mark.anchors)[2] : mark.anchors[0];
  const y = Math.round(scale.y(last.price)) + 0.5;
  const x = scale.x(indexOf(last.time, last.price));
  return [
    { kind: "path", paths: [[x, y, right, y]], stroke: "ink2", width: 1, dash: [1, 3] },
    {
      kind: "path",
      paths: [
        [right - 4, y - 4, right + 4, y + 4],
        [right - 4, y + 4, right + 4, y - 4],
      ],
      stroke: "ink",
      width: 1.4,
    },
  ];
}
