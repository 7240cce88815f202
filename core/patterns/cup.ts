import { SHARES, level, rule, type PatternShape } from "#core/patterns/shape";

/** A round hollow between two rims at one price, and a small fall from the second. */
export const cup: PatternShape = {
  title: ["Cup with handle", "Cup with handle, upside down"],
  points: ["first rim", "low", "second rim", "handle"],
  first: "high",
  source: `The form: rounding bottoms of Edwards and Magee, 1948, from memory; ${SHARES}`,
  judge([left, low, right, handle], { atr, bars, sign }) {
    const rim = Math.max(left.price, right.price);
    const depth = rim - low.price;
    const span = right.index - left.index;
    let deep = 0;
    for (let i = left.index; i <= right.index; i++) if (sign * bars.close[i] < rim - depth / 2) deep++;
    return {
      rules: [
        rule("depth in ATR", depth / atr, { least: 4 }),
        rule("rims apart, share of the depth", Math.abs(left.price - right.price) / depth, { most: 0.15 }),
        rule("bars from rim to rim", span, { least: 20 }),
        rule("low between the rims, share of the time", (low.index - left.index) / span, { least: 0.3, most: 0.7 }),
        rule("closes in the lower half, share of the bars", deep / (span + 1), { least: 0.55 }),
        rule("handle, share of the depth", (right.price - handle.price) / depth, { most: 0.4 }),
      ],
      form: () => ({
        ...{ confirm: level(rim), against: level(rim - depth / 2), isEither: false, height: depth },
        ...{ stop: handle.price, otherStop: rim, until: handle.index + span },
      }),
    };
  },
};
