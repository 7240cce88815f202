import { describe, expect, it } from "vitest";
import type { Direction } from "#core/marks/bearing";
import { agreementText, withoutBars } from "./BearingRow.tsx";

const rungs = (ways: string) =>
  [...ways].map((way, i) => ({
    rung: ["P1M", "P1W", "P1D", "PT4H"][i],
    direction: ({ u: "up", d: "down", s: "sideways" } as Record<string, Direction>)[way],
  }));

describe("how far the rungs agree, in words", () => {
  it.each([
    ["uuuu", "4 of 4 up"],
    ["uuds", "2 of 4 up; Day dissents"],
    ["uddd", "3 of 4 down; Month dissents"],
    ["udud", "2 up, 2 down"],
    ["ssss", "no rung goes anywhere"],
  ])("%s: %s", (ways, words) => expect(agreementText(rungs(ways))).toBe(words));
  it("rungs without bars are named, and count in no whole", () => {
    const empty = withoutBars([{ rung: "P1D", until: 5 }, { rung: "PT5M" }, { rung: "PT1M" }], new Map());
    expect(agreementText(rungs("uus"), empty)).toBe("2 of 3 up; no bars on 5 min, 1 min");
  });
  it("one without bars of which the analyst said where it goes is none of them", () =>
    expect(withoutBars([{ rung: "PT1M" }], new Map([["PT1M", {}]]))).toEqual([]));
});
