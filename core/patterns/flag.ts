import {
  EDWARDS_MAGEE,
  level,
  rule,
  through,
  type Judged,
  type PatternGround,
  type PatternPoint,
  type PatternRule,
  type PatternShape,
} from "#core/patterns/shape";

const SOURCE = `${EDWARDS_MAGEE}; speed, time and the half given back are common practice, no source`;
const POINTS = ["pole begins", "pole ends", "first low", "high", "second low"];

/** A sharp pole and a rest of it that gives back a half at most; `rest` judges what the rest looks like. */
function afterPole(
  [from, top, c, d, e]: readonly PatternPoint[],
  { atr }: PatternGround,
  rest: (widths: { first: number; last: number }) => PatternRule[],
): Judged {
  const height = top.price - from.price;
  const bars = Math.max(1, top.index - from.index);
  const upper = through(top, d);
  const bottom = Math.min(c.price, e.price);
  const widths = { first: top.price - c.price, last: d.price - e.price };
  return {
    rules: [
      rule("pole in ATR", height / atr, { least: 4 }),
      rule("pole in ATR a bar", height / atr / bars, { least: 0.4 }),
      rule("given back, share of the pole", (top.price - bottom) / height, { least: 0.1, most: 0.5 }),
      rule("bars of the rest to bars of the pole", (e.index - top.index) / bars, { most: 3 }),
      rule("slope of the rest's highs, share of the pole", (d.price - top.price) / height, { most: 0 }),
      ...rest(widths),
    ],
    form: () => ({
      ...{ confirm: upper, against: level(top.price - height / 2), isEither: false, height },
      ...{ stop: bottom, otherStop: top.price, until: e.index + Math.max(5, e.index - top.index) },
    }),
  };
}

/** The rest drifts against the pole between lines that keep their distance. */
export const flag: PatternShape = {
  title: ["Flag up", "Flag down"],
  ...{ points: POINTS, first: "low", source: SOURCE },
  judge: (points, ground) =>
    afterPole(points, ground, ({ first, last }) => [
      rule("second swing of the rest to its first", last / first, { least: 0.7, most: 1.4 }),
      rule("second low below the first, share of the rest", (points[2].price - points[4].price) / first, { least: 0 }),
    ]),
};

/** The rest comes together to a point. */
export const pennant: PatternShape = {
  title: ["Pennant up", "Pennant down"],
  ...{ points: POINTS, first: "low", source: SOURCE },
  judge: (points, ground) =>
    afterPole(points, ground, ({ first, last }) => [
      rule("second swing of the rest to its first", last / first, { most: 0.8 }),
      rule("second low above the first, share of the rest", (points[4].price - points[2].price) / first, {
        least: 1e-6,
      }),
    ]),
};
