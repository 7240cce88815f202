import { describe, expect, it } from "vitest";
import type { CountProps } from "#core/marks/countProps";
import { labelInside } from "#core/marks/countTree";
import type { Mark } from "#core/marks/kind";
import { waveEndsOf } from "#core/marks/waveEnds";
import { day, mark } from "#core/testing/marks";

type Counted = Mark<CountProps>;

// Degrees and their labels as in the book's table: intermediate (1) to (5), minor 1 to 5 inside.
describe("ends of the waves of a count", () => {
  const turns: [number, number][] = [
    [0, 100],
    [10, 120],
    [20, 110],
    [30, 150],
  ];
  const root = mark("count", turns, { degree: "Intermediate", shown: 1 }) as unknown as Counted;
  const inside = [22, 24, 26, 28].map((n, i) => ({ time: day(n), price: [120, 115, 140, 133][i] }));
  const both = labelInside(root, [2], "impulse", inside);
  const told = (count: Counted) =>
    waveEndsOf(count).map(({ time, price, label }) => `${(time - day(0)) / 86_400_000} ${price} ${label}`);

  it("are told for the degrees that are shown, its start not", () => {
    expect(told(root)).toEqual(["10 120 (1)", "20 110 (2)", "30 150 (3)"]);
    expect(told({ ...both, props: { ...both.props, shown: 1 } })).toEqual(told(root));
  });
  it("where two waves end at one turn the larger is told, once", () => {
    const deep = told({ ...both, props: { ...both.props, shown: 2 } });
    expect(deep.slice(0, 3)).toEqual(["10 120 (1)", "20 110 (2)", "30 150 (3)"]);
    expect(deep.slice(3)).toEqual(["22 120 1", "24 115 2", "26 140 3", "28 133 4"]);
  });
});
