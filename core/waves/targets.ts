import { PATTERNS, type Pattern } from "#core/waves/patterns";
import { boundsOf } from "#core/waves/statements";
import { STRICT, type RuleOptions } from "#core/waves/rules";
import { directionOf, isComplete, SCALES, type Pivot, type Wave } from "#core/waves/wave";

/** Where the wave in progress may end by a ratio of finished waves. */
export interface WaveTarget {
  /** Label of the wave in progress. */
  wave: string;
  ratio: number;
  price: number;
  /** Which legs the ratio is taken of and where it is laid off. */
  basis: string;
}

/** Shares of a leg given back by the wave after it, or multiples of one laid off from the last pivot. */
type Way =
  | { kind: "back"; of: number; ratios: readonly number[] }
  | { kind: "on"; from: number; to: number; ratios: readonly number[]; of: string }
  | { kind: "whole"; ratios: readonly number[] };

const back = (of: number, ...ratios: number[]): Way => ({ kind: "back", of, ratios });
/** Multiples of the way from pivot `from` to pivot `to`. */
const on = (from: number, to: number, of: string, ...ratios: number[]): Way => ({ kind: "on", from, to, ratios, of });

/**
 * Ratios of Frost and Prechter, chapter 4 ("Ratio analysis") and chapter 2, from memory without page; those of
 * combinations are common practice.
 */
const DIAGONAL: Record<number, readonly Way[]> = { 2: [back(1, 0.66, 0.81)], 4: [back(3, 0.66, 0.81)] };
const CONVERGING = { ...DIAGONAL, 3: [on(0, 1, "wave 1", 0.618, 0.786)], 5: [on(2, 3, "wave 3", 0.618, 0.786)] };
const DIVERGING = { ...DIAGONAL, 3: [on(0, 1, "wave 1", 1.236, 1.618)], 5: [on(2, 3, "wave 3", 1.236, 1.618)] };
const TRIANGLE = {
  2: [back(1, 0.618, 0.786, 1)],
  3: [back(2, 0.618, 0.786)],
  4: [back(3, 0.618, 0.786)],
  5: [back(4, 0.618, 0.786)],
};
const WIDENING = {
  2: [back(1, 1, 1.236)],
  3: [back(2, 1.236, 1.5)],
  4: [back(3, 1.236, 1.5)],
  5: [back(4, 1.236, 1.5)],
};
const SINGLE = { 2: [back(1, 0.382, 0.5, 0.618)], 3: [on(0, 1, "wave W", 0.618, 1, 1.618)] };
const THREES = {
  2: [back(1, 0.618, 1)],
  3: [on(0, 1, "wave W", 0.618, 1)],
  4: [back(3, 0.618, 1)],
  5: [on(2, 3, "wave Y", 0.618, 1)],
};

const WAYS: Readonly<Record<Pattern, Readonly<Record<number, readonly Way[]>>>> = {
  impulse: {
    2: [back(1, 0.5, 0.618, 0.786)],
    3: [on(0, 1, "wave 1", 1, 1.618, 2.618, 4.236)],
    4: [back(3, 0.236, 0.382, 0.5)],
    5: [
      on(0, 1, "wave 1", 1, 1.618),
      on(0, 3, "waves 1 to 3", 0.382, 0.618, 1, 1.618),
      { kind: "whole", ratios: [0.618, 0.382] },
    ],
  },
  leadingDiagonal: CONVERGING,
  endingDiagonal: CONVERGING,
  leadingDiagonalExpanding: DIVERGING,
  endingDiagonalExpanding: DIVERGING,
  zigzag: { 2: [back(1, 0.382, 0.5, 0.618)], 3: [on(0, 1, "wave A", 0.618, 1, 1.618)] },
  flat: { 2: [back(1, 0.9, 1, 1.236, 1.382)], 3: [on(0, 1, "wave A", 0.618, 1, 1.618)] },
  triangle: TRIANGLE,
  triangleExpanding: WIDENING,
  doubleZigzag: SINGLE,
  tripleZigzag: { ...SINGLE, 4: [back(3, 0.382, 0.5, 0.618)], 5: [on(2, 3, "wave Y", 0.618, 1, 1.618)] },
  doubleThree: THREES,
  tripleThree: THREES,
};

/**
 * Targets of the wave in progress. Lengths are taken and laid off on the scale of `options`; on the log scale equal
 * ratios are equal shares of price. A complete triangle gives its thrust: its widest width from its last pivot.
 */
export function targetsOf(wave: Pick<Wave, "pattern" | "pivots">, options: RuleOptions = STRICT): WaveTarget[] {
  const { pattern, pivots } = wave;
  const { on: to, off } = SCALES[options.scale];
  const v = pivots.map(({ price }) => to(price));
  if (isComplete(wave)) return pattern === "triangle" ? thrust(pivots, v, off) : [];
  const n = pivots.length;
  const { labels } = PATTERNS[pattern];
  const label = labels[n - 1];
  const end = n > 1 ? labels[n - 2] : "";
  const target = (ratio: number, value: number, basis: string): WaveTarget => ({
    wave: label,
    ratio,
    price: off(value),
    basis,
  });
  const out = (WAYS[pattern][n] ?? []).flatMap((way) => {
    switch (way.kind) {
      case "back":
        return way.ratios.map((ratio) =>
          target(
            ratio,
            v[way.of] + ratio * (v[way.of - 1] - v[way.of]),
            `of wave ${labels[way.of - 1]}, back from its end`,
          ),
        );
      case "on":
        return way.ratios.map((ratio) =>
          target(ratio, v[n - 1] + ratio * (v[way.to] - v[way.from]), `× ${way.of}, from the end of ${end}`),
        );
      case "whole":
        return way.ratios.map((ratio) =>
          target(ratio, v[0] + (v[4] - v[0]) / ratio, "of the whole, divided by the end of 4"),
        );
    }
  });
  // An expanded flat reaches further (Frost and Prechter, chapter 4).
  if (pattern === "flat" && n === 3 && Math.abs(v[2] - v[1]) > Math.abs(v[1] - v[0]))
    out.push(target(2.618, v[2] + 2.618 * (v[1] - v[0]), "× wave A, from the end of B"));
  // A wave cannot end where going on to would break a rule of its pattern: no such price is a target.
  const bounds = boundsOf(wave, n, options);
  const way = (n % 2 === 1 ? 1 : -1) * directionOf(pivots);
  const possible = out.filter(
    ({ price }) => Number.isFinite(price) && bounds.every(({ killPrice }) => way * (price - killPrice) <= 0),
  );
  if (pattern === "impulse" && n === 5)
    for (const { killPrice } of bounds)
      possible.push({ wave: label, ratio: 1, price: killPrice, basis: "× wave 3: the cap, for 3 is shorter than 1" });
  return possible;
}

function thrust(pivots: readonly Pivot[], v: readonly number[], off: (value: number) => number): WaveTarget[] {
  const widest = Math.max(...v.slice(1).map((value, i) => Math.abs(value - v[i])));
  // The thrust goes on against the way of the triangle's last wave.
  return [
    {
      wave: "thrust",
      ratio: 1,
      price: off(v[5] - directionOf(pivots) * widest),
      basis: "× the widest width, from the end of E",
    },
  ];
}

/** When the wave in progress may end: its length in time as a ratio of finished waves. `time` and `duration` in ms. */
export interface TimeTarget {
  wave: string;
  ratio: number;
  time: number;
  basis: string;
}

const TIME_RATIOS = [0.618, 1, 1.618];

/**
 * Ratios in time of the wave before and of the one before that, which goes the same way (Frost and Prechter, chapter 4:
 * equality and 0.618 or 1.618 are the usual ones; from memory).
 */
export function timeTargetsOf(wave: Pick<Wave, "pattern" | "pivots">): TimeTarget[] {
  const { pattern, pivots } = wave;
  const { labels } = PATTERNS[pattern];
  const n = pivots.length;
  if (isComplete(wave) || n < 2) return [];
  const start = pivots[n - 1].time;
  return [n - 1, n - 2]
    .filter((of) => of >= 1)
    .flatMap((of) =>
      TIME_RATIOS.map((ratio) => ({
        wave: labels[n - 1],
        ratio,
        time: start + ratio * (pivots[of].time - pivots[of - 1].time),
        basis: `× the time of wave ${labels[of - 1]}`,
      })),
    );
}
