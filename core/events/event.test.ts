import { describe, expect, it } from "vitest";
import { atOneInstant, groupText } from "#core/events/event";

const event = (title: string, at: number, more: object = {}) => ({
  ...{ title, at, kind: "release" as const, impact: 1 as const, allDay: false },
  ...more,
});

describe("events of one instant", () => {
  it("and one kind stand together, in order of time; what lasts all day comes first", () => {
    const groups = atOneInstant([
      event("b", 20),
      event("a", 10),
      event("c", 20),
      event("talk", 20, { kind: "speech" }),
      event("closed", 0, { kind: "holiday", allDay: true }),
    ]);
    expect(groups.map((group) => group.map(({ title }) => title))).toEqual([["closed"], ["a"], ["b", "c"], ["talk"]]);
  });
  it("are told by how many they are and by the weightiest of them", () => {
    const five = ["Olta jobs", "Verin prices", "x", "y", "z"].map((title, i) =>
      event(title, 5, { impact: i === 1 ? 3 : 1 }),
    );
    expect(groupText(five)).toBe("5 releases: Verin prices, Olta jobs and 3 more");
    expect(groupText(five.slice(0, 2))).toBe("2 releases: Verin prices and Olta jobs");
    expect(groupText([event("a", 1, { kind: "expiry" }), event("b", 1, { kind: "expiry" })])).toMatch(/^2 expiries: /);
  });
});
