import { EDWARDS_MAGEE, SHARES, highest, rule, type PatternShape } from "#core/patterns/shape";
import { betweenGate, betweenLines, CLOSING, FIVE, LEVEL, twoLines } from "#core/patterns/twoLines";

/**
 * Both lines slope one way and come together, so that the upper one falls more; left the other way it goes back to
 * where it began.
 */
export const wedge: PatternShape = {
  title: ["Falling wedge", "Rising wedge"],
  ...{ points: FIVE, gate: betweenGate, first: "any", source: `${EDWARDS_MAGEE}; ${SHARES}` },
  judge(points, ground) {
    const lines = twoLines(points, ground);
    return betweenLines(
      lines,
      [
        rule("lower line's rise, share of the width", lines.lowerRise, { most: -LEVEL }),
        rule("width at its end, share of the start", lines.end / lines.width, { most: CLOSING }),
      ],
      { target: highest(points) },
    );
  },
};
