import { describe, expect, it } from "vitest";
import { EVERYTHING, isShown } from "#core/marks/shown";

describe("what a chart shows", () => {
  const day = { kind: "level", rung: "P1D" };
  it.each([
    ["its own rung's", day, false, "P1D", EVERYTHING, true],
    ["a higher rung's", day, false, "PT1H", EVERYTHING, true],
    ["another rung of the same length", { ...day, rung: "PT24H" }, false, "P1D", EVERYTHING, true],
    ["no lower rung's", day, false, "P1W", EVERYTHING, false],
    ["no higher rung's when that is not wanted", day, false, "PT1H", { ...EVERYTHING, higher: false }, false],
    ["its own all the same", day, false, "P1D", { ...EVERYTHING, higher: false }, true],
    ["nothing hidden", { ...day, hidden: true }, false, "P1D", EVERYTHING, false],
    ["no kind that is left out", day, false, "P1D", { ...EVERYTHING, without: ["level"] }, false],
    ["what is dead", day, true, "P1D", EVERYTHING, true],
    ["or not", day, true, "P1D", { ...EVERYTHING, dead: false }, false],
  ])("%s", (_name, mark, dead, rung, shown, expected) => expect(isShown(mark, dead, rung, shown)).toBe(expected));
});
