import { barsOf, type TimeRatiosProps, type TimeRatiosState } from "#core/marks/measuring/timeRatios";
import { percentText } from "#core/marks/wording";
import type { Shape } from "../../shapes.ts";
import type { Draw } from "../drawing.ts";

/** Pixels its words need beside a line. */
const ROOM = 90;

/** The leg thin, and an upright line where each multiple of its bars falls: whole while ahead, dotted once passed. */
export const drawTimeRatios: Draw<TimeRatiosProps, TimeRatiosState> = (mark, life, context) => {
  const { scale, indexOf, selected, last, origin } = context;
  const { plot } = scale;
  const [a, b, c = b] = mark.anchors.map(({ time, price }) => ({ index: indexOf(time, price), price }));
  const span = b.index - a.index;
  if (span <= 0) return [];
  const pigment = life.dead ? "ink3" : "verdigris";
  const leg = [scale.x(a.index), scale.y(a.price), scale.x(b.index), scale.y(b.price)];
  const out: Shape[] = [{ kind: "path", paths: [leg], stroke: pigment, width: selected ? 1.8 : 1, dash: [5, 3] }];
  mark.props.ratios.forEach((ratio, n) => {
    const x = Math.round(scale.x(c.index + barsOf(ratio, span))) + 0.5;
    const isPassed = life.state.came[n] !== null || c.index + barsOf(ratio, span) <= last;
    const foot = plot.top + plot.height;
    const isAtEnd = x + ROOM > plot.left + plot.width;
    out.push(
      {
        ...{ kind: "path", paths: [[x, plot.top, x, foot]], stroke: isPassed ? "ink3" : pigment },
        ...{ width: selected ? 1.3 : 0.9, dash: isPassed ? [1, 4] : [4, 3] },
      },
      {
        ...{
          kind: "text",
          x: isAtEnd ? x - 3 : x + 3,
          y: foot - 4,
          align: isAtEnd ? "right" : "left",
          text: `${percentText(ratio)}${origin ? ` ${origin}` : ""} of time`,
        },
        ...{ color: isPassed ? "ink3" : pigment, size: 10.5, baseline: "bottom", halo: "paper", yields: true },
      },
    );
  });
  return out;
};
