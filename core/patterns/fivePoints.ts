import { level, rule, type PatternShape } from "#core/patterns/shape";

/** Where B and D stand as shares of the first leg, by common practice. */
interface Ratios {
  b: readonly [least: number, most: number];
  d: number;
}

/** How far a ratio may be off. */
const WITHIN = 0.05;
const C: readonly [number, number] = [0.382, 0.886];

function fivePoints({ b, d }: Ratios): PatternShape {
  const title = `Five points, D at ${(d * 100).toFixed(1)} % of XA`;
  return {
    title: [`${title}, up`, `${title}, down`],
    points: ["X", "A", "B", "C", "D"],
    first: "low",
    source:
      "The form: H. M. Gartley, Profits in the Stock Market, 1935, from memory; ratios common practice, no source",
    judge([x, a, atB, c, end], { atr }) {
      const leg = a.price - x.price;
      const back = (point: typeof x) => (a.price - point.price) / leg;
      const stop = Math.min(end.price, d < 1 ? x.price : end.price - leg / 10);
      return {
        rules: [
          rule("first leg in ATR", leg / atr, { least: 3 }),
          rule("B, share of XA", back(atB), { least: b[0] - WITHIN, most: b[1] + WITHIN }),
          rule("C, share of AB", (c.price - atB.price) / (a.price - atB.price), {
            least: C[0] - WITHIN,
            most: C[1] + WITHIN,
          }),
          rule("D, share of XA", back(end), { least: d - WITHIN, most: d + WITHIN }),
        ],
        form: () => ({
          confirm: level(end.price + 0.382 * (c.price - end.price)),
          ...{ against: level(stop), isEither: false, height: 0 },
          target: end.price + 0.618 * (a.price - end.price),
          ...{ stop, otherStop: c.price, until: end.index + (end.index - x.index) },
        }),
      };
    },
  };
}

export const fivePoints786 = fivePoints({ b: [0.618, 0.618], d: 0.786 });
export const fivePoints886 = fivePoints({ b: [0.382, 0.5], d: 0.886 });
export const fivePoints1272 = fivePoints({ b: [0.786, 0.786], d: 1.272 });
export const fivePoints1618 = fivePoints({ b: [0.382, 0.618], d: 1.618 });
