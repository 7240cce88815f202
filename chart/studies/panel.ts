import type { MarketFacts } from "#core/marks/kind";
import { mainLine, valueText, type Columns } from "#core/studies/reading";
import type { Series } from "#core/series/series";
import { bounded } from "../bounds.ts";
import { drawCandles } from "../candles.ts";
import { buildPyramid, type Pyramid } from "../pyramid.ts";
import type { Plot, Scale, View } from "../scale.ts";
import { makeScale } from "../scale.ts";
import type { Shape } from "../shapes.ts";
import type { TimeTick } from "../ticks.ts";
import { extremesOf } from "./column.ts";
import { columnPaths, drawLine, strokeOf, type Grid } from "./lines.ts";

/** Values beneath a price chart: from `bottom` to `top` over the height of its plot. */
export interface ValueScale {
  plot: Plot;
  bottom: number;
  top: number;
  y(value: number): number;
}

const AIR = 0.06;
/** Pixels of a panel for its name and values: no line goes through them. */
const HEAD = 16;

/** The scale of a panel: a study's own bounds, or as far as its lines go in view, with the levels it is read by. */
export function valueScale(
  { study, columns }: Columns,
  plot: Plot,
  { from, to }: { from: number; to: number },
): ValueScale {
  const [bottom, top] = typeof study.place === "object" ? study.place : fitted(study, columns, from, to);
  const air = (top - bottom || Math.abs(top) || 1) * AIR;
  const [low, high] = [bottom - air, top + air];
  const y = (value: number) => plot.top + HEAD + ((high - value) / (high - low)) * (plot.height - HEAD);
  return { plot, bottom: low, top: high, y };
}

function fitted(
  { lines, levels = [] }: Columns["study"],
  columns: readonly Float64Array[],
  from: number,
  to: number,
): [number, number] {
  let [low, high] = [Infinity, -Infinity];
  lines.forEach(({ ink }, n) => {
    const found = ink === "none" ? undefined : extremesOf(columns[n], from, to);
    if (found) [low, high] = [Math.min(low, found[0]), Math.max(high, found[1])];
    if (found && ink === "columns") [low, high] = [Math.min(low, 0), Math.max(high, 0)];
  });
  if (low > high) return [0, 1];
  // A level that is far off would leave the line no height.
  const height = high - low;
  for (const level of levels)
    if (level > low - height && level < high + height) [low, high] = [Math.min(low, level), Math.max(high, level)];
  return [low, high];
}

/** One study beneath the prices: a rule, its levels, its lines, and values at the right. */
export function drawPanel(
  of: Columns,
  plot: Plot,
  scale: Scale,
  ticks: readonly TimeTick[],
  market: MarketFacts,
): Shape[] {
  const { study, columns } = of;
  const { view } = scale;
  const values = valueScale(of, plot, view);
  const right = plot.left + plot.width;
  const bottom = plot.top + plot.height;
  const grid: Grid = { x: scale.x, y: values.y, from: view.from, to: view.to, width: plot.width };
  const upright = ({ index }: TimeTick) => {
    const x = Math.round(scale.x(index - 0.5)) + 0.5;
    return [x, plot.top, x, bottom];
  };
  const level = (value: number) => {
    const y = Math.round(values.y(value)) + 0.5;
    return [plot.left, y, right, y];
  };
  const ground: Shape[] = [
    { kind: "path", paths: ticks.map(upright), stroke: "faint", width: 1 },
    { kind: "path", paths: (study.levels ?? []).map(level), stroke: "ink3", width: 0.8, dash: [2, 4], opacity: 0.8 },
  ];
  const drawn = study.candles
    ? drawCandles(candlesOf(columns, of), candleScale(view, values))
    : study.lines.flatMap(({ ink = "main" }, n): Shape[] => {
        if (ink === "none") return [];
        if (ink === "columns")
          return [
            {
              kind: "path",
              paths: columnPaths(columns[n], grid, 0),
              stroke: "ink3",
              width: wideAs(scale),
              opacity: 0.55,
            },
          ];
        return [drawLine(columns[n], grid, strokeOf(ink, 0))];
      });
  const rule: Shape = { kind: "path", paths: [[0, plot.top + 0.5, right, plot.top + 0.5]], stroke: "rule", width: 1 };
  return [rule, ...bounded([...ground, ...drawn], plot), ...axis(of, values, right, market)];
}

function candleScale(view: View, { plot, bottom, top }: ValueScale): Scale {
  return makeScale({ ...view, log: false, bottom, top }, { ...plot, top: plot.top + HEAD, height: plot.height - HEAD });
}

const wideAs = ({ slot }: Scale) => Math.max(1, Math.min(7, Math.floor(slot * 0.6)));

const NEAR = 13;

/** At the right the value of the last bar, and of the levels and ends those that do not stand in its way. */
function axis(
  { study, columns }: Columns,
  { plot, bottom, top, y }: ValueScale,
  right: number,
  market: MarketFacts,
): Shape[] {
  const at = mainLine(study);
  const { unit } = study.lines[at];
  const last = columns[at].at(-1) ?? NaN;
  const inside = (value: number) => y(value) > plot.top + HEAD - 4 && y(value) < plot.top + plot.height - 6;
  const taken: number[] = [];
  const shapes: Shape[] = [];
  const put = (value: number, bold: boolean) => {
    if (!inside(value) || taken.some((other) => Math.abs(other - y(value)) < NEAR)) return;
    taken.push(y(value));
    const text = bold ? valueText(value, unit, market) : short(valueText(value, unit, market));
    shapes.push({
      ...{ kind: "text", x: right + 12, y: y(value), text, color: bold ? "ink" : "ink3" },
      ...{ size: 11, bold, baseline: "middle" },
    });
  };
  if (!Number.isNaN(last)) put(last, true);
  const between = (top - bottom) * 0.2;
  for (const value of study.levels ?? (study.place === "own" ? [top - between, bottom + between] : study.place))
    put(value as number, false);
  return shapes;
}

/** A level without needless zeros: "70", "100 %". */
const short = (text: string) => text.replace(/\.0+(?=$| )/, "");

const candles = new WeakMap<Float64Array, Pyramid>();

function candlesOf([open, high, low, close]: readonly Float64Array[], of: Columns): Pyramid {
  const known = candles.get(of.columns[0]);
  if (known) return known;
  const empty = new Float64Array(open.length);
  const series: Series = { length: open.length, time: empty, open, high, low, close, volume: empty };
  const pyramid = buildPyramid(series);
  candles.set(of.columns[0], pyramid);
  return pyramid;
}
