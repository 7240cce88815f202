import { EDWARDS_MAGEE, SHARES, rule, type PatternShape } from "#core/patterns/shape";
import { betweenGate, betweenLines, CLOSING, FIVE, twoLines } from "#core/patterns/twoLines";

/** Parallel lines that fall, left upwards; upside down rising ones, left downwards. */
export const channelBreak: PatternShape = {
  title: ["Falling channel", "Rising channel"],
  ...{ points: FIVE, gate: betweenGate, first: "any", source: `${EDWARDS_MAGEE}; ${SHARES}` },
  judge(points, ground) {
    const lines = twoLines(points, ground);
    return betweenLines(lines, [
      rule("upper line's rise, share of the width", lines.upperRise, { most: -0.3 }),
      rule("lower line's rise, share of the width", lines.lowerRise, { most: -0.3 }),
      rule("width at its end, share of the start", lines.end / lines.width, { least: CLOSING, most: 1 / CLOSING }),
    ]);
  },
};
