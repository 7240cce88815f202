import { describe, expect, it } from "vitest";
import { levelName, levelsOf } from "#core/marks/levels";
import { days } from "#core/testing/openData";
import { live, mark, market } from "#core/testing/marks";

describe("the table of levels", () => {
  it("names the leg of each share, so that two of one share are told apart", () => {
    const series = days([100, 200, 100, 190], [190, 195, 150, 160], [160, 180, 160, 175]);
    const legs = [
      mark(
        "retracement",
        [
          [0, 100],
          [0.5, 200],
        ],
        { ratios: [0.618] },
      ),
      mark(
        "retracement",
        [
          [1, 150],
          [2, 180],
        ],
        { ratios: [0.618] },
      ),
    ];
    const names = levelsOf(
      legs.map((one) => ({ mark: one, life: live(one, series) })),
      175,
    ).map((one) => levelName(one, market));
    expect(names).toEqual(["61.8 % of 150.00 to 180.00", "61.8 % of 100.00 to 200.00"]);
  });
  it("a line that is no share has its own name", () => expect(levelName({ label: "shelf" }, market)).toBe("shelf"));
});
