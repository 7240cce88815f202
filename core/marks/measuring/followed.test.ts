import { describe, expect, it } from "vitest";
import { bandsOfMarks } from "#core/areas/fromMarks";
import { live, mark, market } from "#core/testing/marks";
import { days } from "#core/testing/openData";
import { partsOf } from "#core/written/parts";
import { valuesOf } from "#core/written/followMarks";

const one = mark(
  "projection",
  [
    [0, 100],
    [1, 110],
    [2, 105],
  ],
  { ratios: [0.618, 1, 1.618] },
);
/** Broken out of, and its first target met. */
const bars = days([100, 101, 100, 100], [100, 110, 100, 109], [109, 109, 105, 106], [106, 112, 106, 111.2]);

describe("a measuring mark", () => {
  it("has targets that prices of a scenario follow, and that speak for areas until they are met", () => {
    const life = live(one, bars);
    const targets = partsOf(one, life).map(({ part }) => part);
    expect(targets).toEqual(["at projection 100.0 %", "at projection 161.8 %", "at projection"]);
    const valueOf = valuesOf(() => ({ mark: one, life }), market);
    expect(valueOf({ follows: "1", part: "at projection 100.0 %", value: 0 })).toBe(115);
    const bands = bandsOfMarks([{ mark: one, life }], () => 1);
    expect(bands.map(({ bottom, kind }) => [bottom, kind])).toEqual([
      [115, "projection"],
      [expect.closeTo(121.18, 9), "projection"],
    ]);
    // A count's own targets have areas of their own.
    const count = mark("count", [
      [0, 95],
      [2, 105],
      [3, 100],
    ]);
    expect(bandsOfMarks([{ mark: count, life: live(count, bars) }], () => 1)).toEqual([]);
  });
});
