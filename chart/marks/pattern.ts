import { linesAt, type PatternProps, type PatternState } from "#core/marks/pattern";
import { inOrder } from "#core/marks/measuring/lines";
import { priceText } from "#core/marks/wording";
import { patternTitle } from "#core/patterns/registry";
import { priceOn } from "#core/patterns/shape";
import type { Shape } from "../shapes.ts";
import type { Draw } from "./drawing.ts";

const diamond = ({ x, y }: { x: number; y: number }, r: number) => [x, y - r, x + r, y, x, y + r, x - r, y];

/**
 * The turns joined by a thin line with a diamond at each, the line it waits for whole and the other side's dotted, up
 * to the bar its life has come to; once it is left, its target as a line of its own. The name stands at the last turn.
 */
export const drawPattern: Draw<PatternProps, PatternState> = (mark, life, context) => {
  const { scale, indexOf, market, selected, origin } = context;
  const { form, sign, first, at, seen, life: own } = life.state;
  const points = inOrder(mark.anchors).map(({ time, price }) => ({
    x: scale.x(indexOf(time, price)),
    y: scale.y(price),
  }));
  const pigment = life.dead ? "ink3" : "slate";
  const end = scale.x(indexOf(seen));
  const line = (of: typeof form.confirm) => [
    ...[points[0].x, scale.y(sign * priceOn(of, first))],
    ...[end, scale.y(sign * priceOn(of, at))],
  ];
  const out: Shape[] = [
    { kind: "path", paths: [points.flatMap(({ x, y }) => [x, y])], stroke: pigment, width: selected ? 1.6 : 0.9 },
    { kind: "path", paths: points.map((point) => diamond(point, selected ? 3.5 : 2.5)), fill: pigment, closed: true },
    { kind: "path", paths: [line(form.confirm)], stroke: pigment, width: selected ? 2 : 1.4 },
  ];
  if (form.isEither || own.state === "forming")
    out.push({
      kind: "path",
      paths: [line(form.against)],
      stroke: pigment,
      width: 1.2,
      dash: form.isEither ? [] : [1, 3],
    });
  if (own.target !== undefined && !life.dead) out.push(...targetLine(own.target));
  const last = points[points.length - 1];
  const below = sign > 0;
  const { confirm } = linesAt(life.state);
  const waits = own.state === "forming" && !form.isEither;
  const said = waits ? `closes ${sign > 0 ? "above" : "below"} ${priceText(confirm, market)}?` : life.status;
  out.push({
    ...{ kind: "text", x: last.x, y: last.y + (below ? 8 : -8), color: pigment, size: 11, align: "center" },
    text: `${patternTitle(mark.props.pattern, sign)}${origin ? ` ${origin}` : ""}, ${said}`,
    ...{ movable: true, baseline: below ? "top" : "bottom", halo: "paper" },
  });
  return out;

  function targetLine(price: number): Shape[] {
    const y = Math.round(scale.y(price)) + 0.5;
    const right = Math.min(scale.plot.left + scale.plot.width, Math.max(end, scale.x(context.last)) + 90);
    return [
      { kind: "path", paths: [[end, y, right, y]], stroke: "verdigris", width: selected ? 1.5 : 1.2 },
      {
        ...{ kind: "text", x: end + 4, y: y - 2, color: "verdigris", size: 11, baseline: "bottom", halo: "paper" },
        ...{ text: `target  ${priceText(price, market)}`, movable: true },
      },
    ];
  }
};
