import { describe, expect, it } from "vitest";
import { EVERYTHING } from "#core/marks/shown";
import { begin, MOST, renamed } from "./usePanes.ts";

const layout = (...panes: [string, string][]) => ({
  panes: panes.map(([market, rung]) => ({ market, rung })),
  shown: EVERYTHING,
});
const rungs = ({ panes }: ReturnType<typeof begin>) =>
  panes.map(({ market, rung }) => `${market}${market && " "}${rung}`);

describe("the charts a page begins with", () => {
  it("are those that were left; the one of the rung that is asked for is worked on", () => {
    const state = begin(layout(["", "P1W"], ["tin", "P1D"], ["", "PT1H"]), "PT1H");
    expect(rungs(state)).toEqual(["P1W", "tin P1D", "PT1H"]);
    expect([state.active, state.lead]).toEqual([2, 2]);
  });
  it("take in a rung that none of them has: the first of the open market is put to it", () => {
    const state = begin(layout(["tin", "P1D"], ["", "P1W"]), "PT4H");
    expect(rungs(state)).toEqual(["tin P1D", "PT4H"]);
    expect(state.active).toBe(1);
  });
  it("always hold one of the market that is open", () => {
    const state = begin(layout(...Array.from({ length: MOST }, (): [string, string] => ["tin", "P1D"])), "P1W");
    expect(rungs(state)).toEqual(["P1W", ...Array.from({ length: MOST - 1 }, () => "tin P1D")]);
    expect(new Set(state.panes.map(({ id }) => id)).size).toBe(MOST);
  });
});

describe("another rung in the page's address", () => {
  const state = begin(layout(["", "P1W"], ["", "P1D"]), "P1W");
  it("by a link or by going back puts the leading chart there", () => {
    expect(rungs(renamed(state, "PT1H"))).toEqual(["PT1H", "P1D"]);
  });
  it("that was asked for here changes no chart, however many keys came before it", () => {
    const busy = { ...state, asked: ["P1D", "PT4H", "PT1H"] };
    const after = renamed(busy, "PT4H");
    expect(rungs(after)).toEqual(["P1W", "P1D"]);
    expect([after.named, after.asked]).toEqual(["PT4H", ["PT1H"]]);
  });
});
