import { describe, expect, it } from "vitest";
import { aWritten } from "#core/testing/written";
import { drawnBeside, drawnScenario, drawScenario, scenarioPrices } from "./scenario.ts";
import { makeScale } from "./scale.ts";

const market = { id: "m", name: "M", tick: 0.1, pip: 0.1, pipName: "pt", decimals: 1 };
const scale = makeScale(
  { from: 0, to: 100, bottom: 90, top: 110, log: false },
  { left: 0, top: 0, width: 1000, height: 500 },
);
const written = { ...aWritten(), weight: 30, role: "alternate" as const };
const shapes = (of: ReturnType<typeof drawnScenario>) => drawScenario(of, scale, 60, 102, market);
const textsOf = (of: ReturnType<typeof drawnScenario>) =>
  shapes(of).flatMap((shape) => (shape.kind === "text" ? [shape.text] : []));
const dashOf = (of: ReturnType<typeof drawnScenario>) =>
  shapes(of).flatMap((shape) => ("dash" in shape ? [shape.dash] : []));

describe("a scenario on the chart", () => {
  it("is the way it expects, with its prices by name; an alternate is dashed", () => {
    expect(textsOf(drawnScenario(written))).toEqual([
      "enter 100.0",
      "stop 98.0",
      "target 1 104.0",
      "target 2 106.0",
      "\u00d7 wrong 97.0",
    ]);
    expect(dashOf(drawnScenario(written))).toEqual([[6, 4]]);
    expect(dashOf(drawnScenario({ ...written, role: "preferred" }))).toEqual([]);
  });
  it("beside another of its set is its way alone, with its name and its weight", () => {
    const beside = drawnBeside(written);
    expect(textsOf(beside)).toEqual(["A, 30 %"]);
    expect(dashOf(beside)).toEqual([[6, 4]]);
    // What is not drawn needs no room.
    expect(scenarioPrices(beside)).not.toContain(97);
    expect(scenarioPrices(drawnScenario(written))).toContain(97);
  });
  it("needs room in the future", () => {
    expect(drawScenario(drawnScenario(written), scale, 100, 102, market)).toEqual([]);
  });
});
