import { Window } from "#core/studies/steps";

/** Sums of products about the means: of both columns with each other, and of each with itself. */
export interface Joint {
  both: number;
  own: number;
  other: number;
}

/** Of the last pairs of values, each window taken afresh about its means; `undefined` before it is full. */
export function jointWindow(period: number): (x: number, y: number) => Joint | undefined {
  const [own, other] = [new Window(period), new Window(period)];
  return (x, y) => {
    own.push(x);
    other.push(y);
    if (!own.isFull) return undefined;
    let [meanX, meanY] = [0, 0];
    for (let n = 0; n < period; n++) {
      meanX += own.before(n) / period;
      meanY += other.before(n) / period;
    }
    const sums: Joint = { both: 0, own: 0, other: 0 };
    for (let n = 0; n < period; n++) {
      const [a, b] = [own.before(n) - meanX, other.before(n) - meanY];
      sums.both += a * b;
      sums.own += a * a;
      sums.other += b * b;
    }
    return sums;
  };
}

/** Coefficient of correlation (K. Pearson, 1895); NaN where one of the two did not move at all. */
export const coefficientOf = ({ both, own, other }: Joint): number =>
  own > 0 && other > 0 ? both / Math.sqrt(own * other) : NaN;
