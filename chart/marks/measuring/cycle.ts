import { inOrder } from "#core/marks/measuring/lines";
import type { CycleProps, CycleState } from "#core/marks/measuring/cycle";
import type { Scale } from "../../scale.ts";
import type { Shape } from "../../shapes.ts";
import type { Draw } from "../drawing.ts";

/** Pixels of a hoop's height at most, and its points. */
const HOOP = 22;
const POINTS = 24;

/**
 * A hoop from low to low at the foot of the plot with how far off each was, and the window of the next low as a pale
 * band with its ideal place, halves and thirds as ticks.
 */
export const drawCycle: Draw<CycleProps, CycleState> = (mark, life, context) => {
  const { scale, indexOf, selected, origin } = context;
  const { plot } = scale;
  const foot = plot.top + plot.height - 2;
  const lows = inOrder(mark.anchors).map(({ time, price }) => ({ index: indexOf(time, price), price }));
  const pigment = life.dead ? "ink3" : "verdigris";
  const out: Shape[] = [];
  const hoops = lows.slice(1).map(({ index }, n) => hoop(scale, lows[n].index, index, foot));
  out.push({ kind: "path", paths: hoops, stroke: pigment, width: selected ? 1.8 : 1.1 });
  out.push({
    ...{
      kind: "path",
      paths: lows.map(({ index, price }) => [scale.x(index), scale.y(price) + 4, scale.x(index), foot]),
    },
    ...{ stroke: pigment, width: 0.7, dash: [1, 4] },
  });
  life.state.troughs.forEach(({ error }, n) => {
    if (error === undefined) return;
    const text = Math.round(error) === 0 ? "on its bar" : `${error > 0 ? "+" : "\u2212"}${Math.abs(Math.round(error))}`;
    out.push({
      ...{ kind: "text", x: scale.x(lows[n]?.index ?? 0), y: foot - 4, text, color: pigment, size: 10.5 },
      ...{ align: "center", baseline: "bottom", halo: "paper", yields: true },
    });
  });
  const last = lows.at(-1);
  const { period } = life.state;
  const own = life.state.troughs.at(-1)?.bars;
  const before = lows.at(-2);
  if (!last || period === 0) return out;
  // On another rung a bar of the mark's own is so many of those shown.
  const stretch = own && before ? (last.index - before.index) / own : 1;
  const at = (bars: number) => scale.x(last.index + bars * stretch);
  const [from, to] = [at(period - mark.props.window - 0.5), at(period + mark.props.window + 0.5)];
  out.push(
    {
      ...{ kind: "path", paths: [[from, plot.top, to, plot.top, to, foot, from, foot]] },
      ...{ fill: pigment, opacity: 0.07, closed: true },
    },
    {
      kind: "path",
      paths: [hoop(scale, last.index, last.index + period * stretch, foot)],
      stroke: pigment,
      width: 1.1,
      dash: [4, 3],
    },
    {
      ...{
        kind: "path",
        stroke: pigment,
        width: 1,
        paths: [1 / 3, 1 / 2, 2 / 3].map((share) => tick(at(period * share), foot)),
      },
    },
    {
      ...{
        kind: "text",
        x: at(period),
        y: plot.top + 12,
        color: pigment,
        size: 11,
        align: "center",
        baseline: "middle",
      },
      ...{ text: `next low${origin ? ` ${origin}` : ""}, ${life.status}`, halo: "paper", yields: true },
    },
  );
  return out;
};

function hoop(scale: Scale, from: number, to: number, foot: number): number[] {
  const height = Math.min(HOOP, Math.max(6, (scale.x(to) - scale.x(from)) / 4));
  return Array.from({ length: POINTS + 1 }, (_, i) => i / POINTS).flatMap((share) => [
    scale.x(from + (to - from) * share),
    foot - height * Math.sin(Math.PI * share),
  ]);
}

const tick = (x: number, foot: number) => [x, foot, x, foot - 7];
