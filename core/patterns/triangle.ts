import { EDWARDS_MAGEE, SHARES, rule, type PatternShape } from "#core/patterns/shape";
import { betweenGate, betweenLines, CLOSING, FIVE, LEVEL, twoLines } from "#core/patterns/twoLines";

const SOURCE = `${EDWARDS_MAGEE}; ${SHARES}`;

/** Lines that come together from both sides: it may be left either way. */
export const symmetricalTriangle: PatternShape = {
  title: ["Symmetrical triangle", "Symmetrical triangle"],
  ...{ points: FIVE, gate: betweenGate, first: "any", isEither: true, source: SOURCE },
  judge(points, ground) {
    const lines = twoLines(points, ground);
    return betweenLines(
      lines,
      [
        rule("upper line's rise, share of the width", lines.upperRise, { most: -LEVEL }),
        rule("lower line's rise, share of the width", lines.lowerRise, { least: LEVEL }),
        rule("width at its end, share of the start", lines.end / lines.width, { most: CLOSING }),
      ],
      { isEither: true },
    );
  },
};

/** One level line and one that comes to it: ascending, and upside down descending. */
export const ascendingTriangle: PatternShape = {
  title: ["Ascending triangle", "Descending triangle"],
  ...{ points: FIVE, gate: betweenGate, first: "any", source: SOURCE },
  judge(points, ground) {
    const lines = twoLines(points, ground);
    return betweenLines(lines, [
      rule("level line's rise, share of the width", lines.upperRise, { least: -LEVEL, most: LEVEL }),
      rule("other line's rise, share of the width", lines.lowerRise, { least: 1 - CLOSING }),
    ]);
  },
};
