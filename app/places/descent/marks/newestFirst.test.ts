import { describe, expect, it } from "vitest";
import { newestFirst } from "./useNewestFirst.ts";

describe("broken rules while a mark is dragged", () => {
  const overlap = (by: number) => `Broken: wave 4 overlaps wave 1, by ${by}.`;
  const short = (by: number) => `Broken: wave 3 is the shortest, by ${by}.`;
  it("the one that broke last stands first, however the numbers change", () => {
    expect(newestFirst([overlap(1.5)], [overlap(2.25), short(0.1)])).toEqual([short(0.1), overlap(2.25)]);
    expect(newestFirst([short(0.1), overlap(2.25)], [overlap(3), short(4)])).toEqual([short(4), overlap(3)]);
  });
  it("one that holds again is gone", () =>
    expect(newestFirst([short(1), overlap(1)], [overlap(2)])).toEqual([overlap(2)]));
});
