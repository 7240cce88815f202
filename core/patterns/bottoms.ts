import {
  EDWARDS_MAGEE,
  SHARES,
  highest,
  level,
  lowest,
  rule,
  type PatternPoint,
  type PatternShape,
} from "#core/patterns/shape";

/** Lows, or highs, at one price: what two and three of them have in common. */
function levelLows(before: PatternPoint, lows: readonly PatternPoint[], between: readonly PatternPoint[], atr: number) {
  const bottom = lowest(lows);
  const top = highest(between);
  const height = top - bottom;
  const span = lows[lows.length - 1].index - lows[0].index;
  return {
    height,
    rules: [
      rule("height in ATR", height / atr, { least: 3 }),
      rule("lows apart, share of the height", (highest(lows) - bottom) / height, { most: 0.2 }),
      rule("bars from first to last low", span, { least: 8 }),
      rule("fall into it, share of the height", (before.price - lows[0].price) / height, { least: 1 }),
    ],
    form: () => ({
      ...{ confirm: level(top), against: level(bottom), isEither: false },
      ...{ height, stop: bottom, otherStop: top, until: lows[lows.length - 1].index + 2 * span },
    }),
  };
}

const SOURCE = `${EDWARDS_MAGEE}; ${SHARES}`;

export const doubleBottom: PatternShape = {
  title: ["Double bottom", "Double top"],
  points: ["before", "first", "between", "second"],
  first: "high",
  source: SOURCE,
  judge: ([before, a, between, b], { atr }) => levelLows(before, [a, b], [between], atr),
};

export const tripleBottom: PatternShape = {
  title: ["Triple bottom", "Triple top"],
  points: ["before", "first", "between", "second", "between", "third"],
  first: "high",
  source: SOURCE,
  judge([before, a, p, b, q, c], { atr }) {
    const judged = levelLows(before, [a, b, c], [p, q], atr);
    const apart = Math.abs(p.price - q.price) / judged.height;
    return {
      ...judged,
      rules: [...judged.rules, rule("highs between apart, share of the height", apart, { most: 0.4 })],
    };
  },
};
