import { EDWARDS_MAGEE, SHARES, level, priceOn, rule, through, type PatternShape } from "#core/patterns/shape";

/** How far shoulders, neckline and time may be from even before it is no such pattern. */
const MOST = { shoulders: 0.4, neckline: 0.5, time: 3 };

/**
 * A head beyond two shoulders over a neckline, which may slope. Confirmed by a close beyond the neckline; the head
 * negates it before that, the right shoulder fails it after.
 */
export const headAndShoulders: PatternShape = {
  title: ["Head and shoulders, bottom", "Head and shoulders, top"],
  points: ["before", "left shoulder", "neckline", "head", "neckline", "right shoulder"],
  first: "high",
  source: `${EDWARDS_MAGEE}; ${SHARES}`,
  judge([before, left, p, head, q, right], { atr }) {
    const neckline = through(p, q);
    const height = priceOn(neckline, head.index) - head.price;
    const under = (point: typeof left) => (priceOn(neckline, point.index) - point.price) / height;
    const shoulders = Math.abs(left.price - right.price) / height;
    const slope = Math.abs(q.price - p.price) / height;
    const time = (right.index - head.index) / (head.index - left.index);
    return {
      rules: [
        rule("height of the head in ATR", height / atr, { least: 4 }),
        rule(
          "head beyond the shoulders, share of its height",
          (Math.min(left.price, right.price) - head.price) / height,
          {
            least: 0.15,
          },
        ),
        rule("left shoulder under the neckline, share of the height", under(left), { least: 0.2 }),
        rule("right shoulder under the neckline, share of the height", under(right), { least: 0.2 }),
        rule("shoulders apart, share of the height", shoulders, { most: MOST.shoulders }),
        rule("neckline's slope between its ends, share of the height", slope, { most: MOST.neckline }),
        rule("time right of the head to left of it", time, { least: 1 / MOST.time, most: MOST.time }),
        rule("fall into it, share of the height", (before.price - left.price) / height, { least: 0.5 }),
      ],
      uneven: (shoulders / MOST.shoulders + slope / MOST.neckline + Math.abs(Math.log(time)) / Math.log(MOST.time)) / 3,
      form: () => ({
        ...{ confirm: neckline, against: level(head.price), isEither: false, height },
        ...{ stop: right.price, otherStop: q.price, until: right.index + (right.index - left.index) },
      }),
    };
  },
};
