import { describe, expect, it } from "vitest";
import { horizonViews, usualHorizons } from "#core/finding/horizon";
import { DEFAULT_SET } from "#core/time/rungs";

describe("the view by horizon", () => {
  // Common practice, no source: week, day and hour.
  it("is week, day and hour when nobody has said otherwise, or what is nearest to them, each once", () => {
    expect(usualHorizons(DEFAULT_SET.rungs.map(({ rung }) => rung))).toEqual({
      long: ["P1W"],
      medium: ["P1D"],
      short: ["PT1H"],
    });
    expect(usualHorizons(["P1M", "PT12H", "PT3H"])).toEqual({ long: ["P1M"], medium: ["PT12H"], short: ["PT3H"] });
    expect(usualHorizons(["P1D"])).toEqual({ long: ["P1D"], medium: [], short: [] });
  });
  it("goes the way of more of its rungs, sideways when they are even, and says nothing without any", () => {
    const bearings = [
      { rung: "PT1H", direction: "down" },
      { rung: "P1W", direction: "up" },
      { rung: "P1M", direction: "up" },
      { rung: "P1D", direction: "down" },
    ] as const;
    const views = horizonViews({ long: ["P1M", "P1W", "P1D"], medium: ["P1W", "P1D"], short: ["PT5M"] }, bearings);
    expect(views.map(({ horizon, direction }) => [horizon, direction])).toEqual([
      ["long", "up"],
      ["medium", "sideways"],
    ]);
    expect(views[0].rungs.map(({ rung }) => rung)).toEqual(["P1M", "P1W", "P1D"]);
  });
});
