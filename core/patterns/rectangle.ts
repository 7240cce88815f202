import { EDWARDS_MAGEE, SHARES, rule, type PatternShape } from "#core/patterns/shape";
import { betweenGate, betweenLines, FIVE, LEVEL, twoLines } from "#core/patterns/twoLines";

/** Two level lines: it may be left either way. */
export const rectangle: PatternShape = {
  title: ["Rectangle", "Rectangle"],
  ...{ points: FIVE, gate: betweenGate, first: "any", isEither: true, source: `${EDWARDS_MAGEE}; ${SHARES}` },
  judge(points, ground) {
    const lines = twoLines(points, ground);
    const bounds = { least: -LEVEL, most: LEVEL };
    return betweenLines(
      lines,
      [
        rule("upper line's rise, share of the width", lines.upperRise, bounds),
        rule("lower line's rise, share of the width", lines.lowerRise, bounds),
      ],
      { isEither: true },
    );
  },
};
