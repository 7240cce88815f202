import { DEGREES, type ImpulseProps, type ImpulseState } from "#core/marks/impulse";
import { priceText } from "#core/marks/wording";
import { readImpulse, type WaveTarget } from "#core/waves/impulse";
import type { Shape } from "../shapes.ts";
import type { Draw, DrawContext } from "./drawing.ts";

const ROMAN = ["0", "I", "II", "III", "IV", "V"];
const CIRCLED = ["\u24EA", "\u2460", "\u2461", "\u2462", "\u2463", "\u2464"];

/** The label of a pivot in the notation of its degree: three alphabets bare, in brackets and circled, large to small. */
export function waveLabel(degree: (typeof DEGREES)[number], wave: number): string {
  const level = DEGREES.indexOf(degree);
  const lower = ROMAN[wave].toLowerCase();
  const forms = [`[${ROMAN[wave]}]`, `(${ROMAN[wave]})`, ROMAN[wave], CIRCLED[wave], `(${wave})`, `${wave}`, `[${lower}]`, `(${lower})`, lower];
  return forms[level];
}

const readings = new WeakMap<object, ReturnType<typeof readImpulse>>();

/** A count is read once, not at every frame: a mark that changes is another object. */
function readingOf(mark: { anchors: Parameters<typeof readImpulse>[0]; props: ImpulseProps }): ReturnType<typeof readImpulse> {
  const before = readings.get(mark);
  if (before) return before;
  const reading = readImpulse(mark.anchors, mark.props.scale);
  readings.set(mark, reading);
  return reading;
}

/** Legs, labels at the pivots, the price that ends the count, and the targets of the wave in progress. */
export const drawImpulse: Draw<ImpulseProps, ImpulseState> = (mark, life, context) => {
  const { scale, market, indexOf, selected } = context;
  const reading = readingOf(mark);
  const pigment = life.dead ? "ink3" : "plum";
  const points = mark.anchors.map(({ time, price }) => ({ x: scale.x(indexOf(time)), y: scale.y(price) }));
  const size = 19 - DEGREES.indexOf(mark.props.degree);
  const up = reading.direction === "up";
  const broken = mark.anchors.map((_, i) => reading.rules.some((line) => !line.holds && faultAt(line.numbers) === i));
  const out: Shape[] = [
    { kind: "path", paths: [points.flatMap(({ x, y }) => [x, y])], stroke: pigment, width: selected ? 1.6 : 0.9, opacity: 0.8 },
    ...points.map(({ x, y }, i): Shape => {
      const above = (i % 2 === 1) === up;
      return {
        kind: "text",
        x,
        y: y + (above ? -9 : 9),
        text: `${waveLabel(mark.props.degree, i)}${broken[i] ? " \u00d7" : ""}`,
        color: pigment,
        size,
        bold: true,
        align: "center",
        baseline: above ? "bottom" : "top",
        halo: "paper",
        yields: true,
      };
    }),
  ];
  if (life.dead) {
    out.push({ kind: "path", paths: [strike(points)], stroke: "ink2", width: 1, dash: [1, 3] });
    return out;
  }
  const open = reading.projections.filter(({ price }) => !life.state.reached.includes(price));
  return [...out, ...drawKill(reading, points[0].x, context), ...drawTargets(open, context, market)];
};

function faultAt(numbers: Record<string, number>): number | undefined {
  if ("wave" in numbers) return numbers.wave;
  if ("wave5" in numbers) return 5;
  return Number(Object.keys(numbers)[0]?.slice(-1));
}

function strike(points: { x: number; y: number }[]): number[] {
  const xs = points.map(({ x }) => x);
  const ys = points.map(({ y }) => y);
  return [Math.min(...xs), Math.max(...ys), Math.max(...xs), Math.min(...ys)];
}

/** The price that ends the count: a dotted line of ink with a cross, never a colour. */
function drawKill({ statements }: ReturnType<typeof readImpulse>, from: number, { scale, market }: DrawContext): Shape[] {
  const kill = statements.at(0);
  if (!kill) return [];
  const y = Math.round(scale.y(kill.killPrice)) + 0.5;
  const right = scale.plot.left + scale.plot.width;
  // From the pivot it hangs on; a count that lies to the left of the view is told at its edge.
  const left = Math.max(scale.plot.left, Math.min(from, right - 200));
  return [
    { kind: "path", paths: [[left, y, right, y]], stroke: "ink", width: 1, dash: [1.5, 4] },
    {
      kind: "text",
      x: left + 8,
      y: y + (kill.killSide === "below" ? 4 : -4),
      text: `\u00d7 count dies ${kill.killSide} ${priceText(kill.killPrice, market)}`,
      color: "ink",
      size: 11.5,
      movable: true,
      baseline: kill.killSide === "below" ? "top" : "bottom",
      halo: "paper",
    },
  ];
}

/** Short lines in the future's room, those reached or off the picture are left to the table. */
function drawTargets(projections: readonly WaveTarget[], context: DrawContext, market: DrawContext["market"]): Shape[] {
  const { scale, last } = context;
  const { plot } = scale;
  const seen = projections
    .map((target) => ({ ...target, y: scale.y(target.price) }))
    .filter(({ y }) => y > plot.top && y < plot.top + plot.height);
  const left = Math.min(scale.x(last) + 14, plot.left + plot.width - 160);
  const right = plot.left + plot.width;
  return [
    { kind: "path", paths: seen.map(({ y }) => [left, Math.round(y) + 0.5, right, Math.round(y) + 0.5]), stroke: "verdigris", width: 1.1 },
    ...seen.map(({ wave, ratio, price, basis, y }): Shape => ({
      kind: "text",
      x: left + 2,
      y: y - 2,
      text: `${wave}: ${ratio} ${basis.split(/[,:]/)[0]}  ${priceText(price, market)}`,
      color: "verdigris",
      size: 11,
      movable: true,
      baseline: "bottom",
      tag: "sheet",
    })),
  ];
}
