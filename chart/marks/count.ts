import {
  checkedWaves,
  type CountState,
  degreeAt,
  isDead,
  killOf,
  labelAt,
  nameAt,
  nestedTargets,
  readingOf,
} from "#core/marks/count";
import type { CountProps } from "#core/marks/countProps";
import { percentText, priceText } from "#core/marks/wording";
import { channelsOf } from "#core/waves/channel";
import { DEGREES } from "#core/waves/degrees";
import { labelSize } from "#core/waves/notation";
import { PATTERNS } from "#core/waves/patterns";
import { targetAreas, type TargetArea } from "#core/waves/targetAreas";
import type { WaveTarget } from "#core/waves/targets";
import { allWaves, directionOf, spine, type Pivot, type Placed } from "#core/waves/wave";
import { textWidth, type Shape } from "../shapes.ts";
import type { Draw, DrawContext } from "./drawing.ts";
import type { Mark } from "#core/marks/kind";

type Counted = Mark<CountProps>;

/** Pixels between a candle and the first label, and of the column of targets where the future has less room. */
const OFF = 8;
const COLUMN = 150;
/** Points of a target's text. */
const SIZE = 11;

/**
 * Legs and labels of every degree that is shown, the prices that end what is said, and the targets of the waves in
 * progress.
 */
export const drawCount: Draw<CountProps, CountState> = (mark, life, context) => {
  const { selected } = context;
  const { role, shown } = mark.props;
  if (role === "archived" && !selected) return [];
  const reading = readingOf(mark);
  const waves = allWaves(reading.wave).filter(({ at }) => at.length < shown);
  const pixels = new Map<string, { x: number; y: number }>();
  const pixelsOf = (pivot: Pivot) => {
    const key = `${pivot.time} ${pivot.price}`;
    const known = pixels.get(key);
    if (known) return known;
    const at = { x: context.scale.x(context.indexOf(pivot.time, pivot.price)), y: context.scale.y(pivot.price) };
    pixels.set(key, at);
    return at;
  };
  const pigment = life.dead ? "ink3" : "plum";
  const out: Shape[] = waves.map(({ wave, at }): Shape => ({
    kind: "path",
    paths: [wave.pivots.flatMap((pivot) => [pixelsOf(pivot).x, pixelsOf(pivot).y])],
    stroke: pigment,
    width: at.length === 0 ? (selected ? 1.6 : 1) : 0.7,
    opacity: at.length === 0 ? 0.8 : 0.45,
    ...(role === "alternate" ? { dash: [5, 4] } : {}),
  }));
  out.push(...drawLabels(mark, waves, context.scale, pixelsOf, pigment, life.state));
  const points = reading.wave.pivots.map(pixelsOf);
  if (life.dead) return [...out, { kind: "path", paths: [strike(points)], stroke: "ink2", width: 1, dash: [1, 3] }];
  if (role === "alternate" && !selected) return out;
  return [
    ...out,
    ...drawKills(mark, life.state, points[0].x, context),
    ...drawTargets(mark, life.state, context),
    ...(selected ? drawChannels(mark, context) : []),
  ];
};

/** Labels at the pivots, the smallest degree next to the candle; a broken rule and a dead statement are crosses. */
function drawLabels(
  mark: Counted,
  waves: readonly Placed[],
  { plot }: DrawContext["scale"],
  pixelsOf: (pivot: Pivot) => { x: number; y: number },
  color: "ink3" | "plum",
  { died }: CountState,
): Shape[] {
  const broken = new Set(
    checkedWaves(mark).flatMap(({ at, rules }) =>
      rules.filter(({ holds }) => !holds).map(({ pivot = 0 }) => `${at.join()} ${pivot}`),
    ),
  );
  const stacks = new Map<
    string,
    { pivot: Pivot; above: boolean; labels: { text: string; size: number; order: number }[] }
  >();
  for (const { wave, at } of waves) {
    const degree = degreeAt(mark.props, at.length);
    const up = directionOf(wave.pivots) > 0;
    const gone = died.some((one) => one.at.join() === at.join());
    wave.pivots.forEach((pivot, i) => {
      // Where a wave begins, the one before it has its label; only the root says where it begins itself.
      if (i === 0 && at.length > 0) return;
      const key = `${pivot.time} ${pivot.price}`;
      const stack = stacks.get(key) ?? { pivot, above: (i % 2 === 1) === up, labels: [] };
      const wrong = broken.has(`${at.join()} ${i}`) || (gone && i === wave.pivots.length - 1);
      stack.labels.push({
        text:
          labelAt(mark.props, i === 0 ? "0" : PATTERNS[wave.pattern].labels[i - 1], at.length) +
          (wrong ? " \u00d7" : ""),
        size: labelSize(degree),
        order: DEGREES.indexOf(degree),
      });
      stacks.set(key, stack);
    });
  }
  return [...stacks.values()].flatMap(({ pivot, above, labels }) => {
    const { x, y } = pixelsOf(pivot);
    let off = OFF;
    return fitting(labels, above ? y - plot.top : plot.top + plot.height - y).map(({ text, size }): Shape => {
      const shape: Shape = {
        kind: "text",
        x,
        y: y + (above ? -off : off),
        text,
        color,
        size,
        bold: true,
        align: "center",
        baseline: above ? "bottom" : "top",
        halo: "paper",
        yields: true,
        climbs: true,
      };
      off += size + 1;
      return shape;
    });
  });
}

/** Labels of one pivot, the smallest degree first; where there is no room for all, the larger ones stay. */
function fitting<T extends { size: number; order: number }>(labels: readonly T[], room: number): T[] {
  const sorted = [...labels].sort((a, b) => b.order - a.order);
  while (sorted.length > 1 && OFF + sorted.reduce((sum, { size }) => sum + size + 1, 0) > room) sorted.shift();
  return sorted;
}

function strike(points: { x: number; y: number }[]): number[] {
  const xs = points.map(({ x }) => x);
  const ys = points.map(({ y }) => y);
  return [Math.min(...xs), Math.max(...ys), Math.max(...xs), Math.min(...ys)];
}

/**
 * The prices that end what the count says: dotted lines of ink with a cross, never a colour; inner ones when it is
 * chosen.
 */
function drawKills(mark: Counted, state: CountState, from: number, { scale, market, selected }: DrawContext): Shape[] {
  const right = scale.plot.left + scale.plot.width;
  const root = killOf(mark);
  const own = readingOf(mark).asserted.filter(
    (statement) => !isDead(state, statement) && (statement === root || selected),
  );
  const seen = new Set<number>();
  return own.flatMap((statement): Shape[] => {
    const { killPrice, killSide, at } = statement;
    if (seen.has(killPrice)) return [];
    seen.add(killPrice);
    const y = Math.round(scale.y(killPrice)) + 0.5;
    // From the pivot it hangs on; a count that lies to the left of the view is told at its edge. Inner ones are
    // shorter.
    const left = Math.max(scale.plot.left, at.length === 0 ? Math.min(from, right - 200) : right - 260);
    const says = statement === root ? "count dies" : `${statement.statement}${nameAt(mark, at)} dies`;
    return [
      {
        kind: "path",
        paths: [[left, y, right, y]],
        stroke: "ink",
        width: statement === root ? 1 : 0.7,
        dash: [1.5, 4],
      },
      {
        kind: "text",
        x: left + 8,
        y: y + (killSide === "below" ? 4 : -4),
        text: `\u00d7 ${says} ${killSide} ${priceText(killPrice, market)}`,
        color: "ink",
        size: 11.5,
        movable: true,
        baseline: killSide === "below" ? "top" : "bottom",
        halo: "paper",
      },
    ];
  });
}

/** Short lines in the future's room; those reached or off the picture are left to the table. */
function drawTargets(
  mark: Counted,
  { reached }: CountState,
  { scale, last, market, selected, close, atr }: DrawContext,
): Shape[] {
  const { plot } = scale;
  const kill = killOf(mark)?.killPrice;
  const percent = (price: number) => (close > 0 ? `  ${percentText(price / close - 1, 1)}` : "");
  const risk = (price: number) =>
    kill === undefined || kill === close
      ? ""
      : `  ${priceText(Math.abs((price - close) / (close - kill)), { decimals: 1 })} R`;
  const all = selected
    ? nestedTargets(mark)
    : readingOf(mark).targets.map((target) => ({ ...target, at: [] as number[] }));
  const seen = all
    .filter(({ price }) => !reached.includes(price))
    .map((target) => ({ ...target, y: scale.y(target.price) }))
    .filter(({ y }) => y > plot.top && y < plot.top + plot.height);
  const left = Math.min(scale.x(last) + 14, plot.left + plot.width - COLUMN);
  const right = plot.left + plot.width;
  return [
    {
      kind: "path",
      paths: seen.map(({ y }) => [left, Math.round(y) + 0.5, right, Math.round(y) + 0.5]),
      stroke: "verdigris",
      width: 1.1,
    },
    ...seen.map(({ wave, ratio, price, basis, at, y }): Shape => {
      const plain =
        `${labelAt(mark.props, wave, at.length)}: ${ratio} ${shortBasis(basis)}  ` + `${priceText(price, market)}`;
      // As much of its figures as the column has room for; all of them stand in the Sheet.
      const text =
        [plain + percent(price) + risk(price), plain + percent(price)].find(
          (one) => selected && textWidth(one, SIZE) < right - left,
        ) ?? plain;
      return {
        kind: "text",
        x: left + 2,
        y: y - 2,
        text,
        color: "verdigris",
        size: SIZE,
        movable: true,
        baseline: "bottom",
        tag: "sheet",
      };
    }),
    ...(selected
      ? areasAhead(mark, all, atr).flatMap(({ bottom, top, reasons }) =>
          drawAgreement(scale.y(top), scale.y(bottom), right, reasons.length, plot),
        )
      : []),
  ];
}

/** "× 1–3": which legs a ratio is taken of, as short as it can be said. */
function shortBasis(basis: string): string {
  return basis
    .split(/[,:]/)[0]
    .replace(/waves? /, "")
    .replace(" to ", "\u2013");
}

function areasAhead(
  mark: Counted,
  targets: readonly (WaveTarget & { at: readonly number[] })[],
  atr: number,
): TargetArea[] {
  return targetAreas(
    targets.map(({ price, wave, ratio, basis, at }) => ({
      price,
      from: degreeAt(mark.props, at.length),
      method: `${wave}: ${ratio} ${basis}`,
    })),
    atr,
  );
}

/** Where targets agree: a bracket at the end of the plot with how many do. */
function drawAgreement(
  top: number,
  bottom: number,
  right: number,
  count: number,
  plot: DrawContext["scale"]["plot"],
): Shape[] {
  if (bottom < plot.top || top > plot.top + plot.height) return [];
  const [a, b] = [top - 3, bottom + 3];
  return [
    {
      kind: "path",
      paths: [[right - 10, a, right - 3, a, right - 3, b, right - 10, b]],
      stroke: "verdigris",
      width: 1.6,
    },
    {
      kind: "text",
      x: right - 14,
      y: (a + b) / 2,
      text: `${count} agree`,
      color: "verdigris",
      size: 11,
      align: "right",
      baseline: "middle",
      movable: true,
      halo: "sheet",
    },
  ];
}

/** Channels of the root and of the waves in progress inside it, from their first pivot to the end of the plot. */
function drawChannels(mark: Counted, { scale, indexOf }: DrawContext): Shape[] {
  const right = scale.plot.left + scale.plot.width;
  const { wave, options } = readingOf(mark);
  const priceAt = new Map(
    allWaves(wave).flatMap((one) => one.wave.pivots.map(({ time, price }) => [time, price] as const)),
  );
  return spine(wave).flatMap(({ wave: one, at }) =>
    channelsOf(one, (time) => indexOf(time, priceAt.get(time)), options.scale).map(
      ({ base, parallel, from }): Shape => {
        const to = scale.index(right);
        // Straight on the scale the lengths are taken on; in steps where the axis is another.
        const steps = Array.from({ length: 33 }, (_, i) => from + ((to - from) * i) / 32);
        const line = (price: (at: number) => number) =>
          steps.flatMap((position) => [scale.x(position), scale.y(price(position))]);
        return {
          kind: "path",
          paths: [line(base), line(parallel)],
          stroke: "plum",
          width: at.length === 0 ? 0.9 : 0.6,
          dash: [7, 4],
          opacity: 0.6,
        };
      },
    ),
  );
}
