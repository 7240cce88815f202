import type { ReadySentence } from "#core/written/ready";
import { lastSwing, onTick, signOf, targetsAhead, termsWith } from "#core/written/ready/ground";

/** Price closes beyond a level, comes back to it and goes on. */
export const retest: ReadySentence = {
  name: "retest",
  title: "Break, retest, continue",
  says: "closed beyond, come back to, gone on from",
  fill(ground) {
    const { close, atr, rung, finer, subjects } = ground;
    const own = subjects.find(({ band, role, kind }) => !band && !role && kind !== "pool");
    const swing = lastSwing(ground, "high");
    const at = own?.bottom ?? (swing !== undefined && swing > close ? swing : lastSwing(ground, "low"));
    if (at === undefined) return "No level and no swing stands on this rung to be broken.";
    const price = own?.price ?? at;
    const direction = at >= close ? "long" : "short";
    const sign = signOf(direction);
    const side = sign > 0 ? "above" : "below";
    const wrong = onTick(at - sign * atr, ground);
    return {
      title: `Break and retest of ${own?.name ?? (sign > 0 ? "the last high" : "the last low")}`,
      terms: termsWith(
        direction,
        {
          if: [
            { when: { on: "close", side, price, rung } },
            { when: { on: "touch", price }, within: 200 },
            { when: { on: "close", side, price, rung: finer }, within: 20 },
          ],
          wrong,
          leastReward: 1,
        },
        {
          entry: { order: "market" },
          stop: { bind: sign > 0 ? "barLow" : "barHigh", step: 3, ticks: -2 },
          targets: targetsAhead(ground, direction, at, atr),
        },
      ),
    };
  },
};

/** Price leaves a range by a wick and closes back: to its middle and to its other side. */
export const rangeReturn: ReadySentence = {
  name: "rangeReturn",
  title: "Range: left and come back",
  says: "the edge of a range swept; to its middle and its other side",
  fill(ground) {
    const { close, atr, rung, legs } = ground;
    const leg = legs.findLast(({ bottom, top }) => bottom < close && close < top) ?? legs.at(-1);
    if (!leg) return "This rung has no two swings yet that make a range.";
    const { bottom, top } = leg;
    // The nearer edge is the one that is likely to be left.
    const direction = close - bottom <= top - close ? "long" : "short";
    const sign = signOf(direction);
    const [edge, other] = sign > 0 ? [bottom, top] : [top, bottom];
    return {
      title: `Back into the range from ${sign > 0 ? "below" : "above"}`,
      terms: termsWith(
        direction,
        {
          if: [{ when: { on: "sweep", side: sign > 0 ? "low" : "high", price: edge, rung, within: 3 } }],
          wrong: onTick(edge - sign * 1.5 * atr, ground),
          leastReward: 1,
        },
        {
          entry: { order: "market" },
          stop: { bind: "sweptExtreme", step: 1, ticks: -2 },
          targets: [
            { price: onTick((bottom + top) / 2, ground), share: 0.5 },
            { price: other, share: 0.5 },
          ],
        },
      ),
    };
  },
};
