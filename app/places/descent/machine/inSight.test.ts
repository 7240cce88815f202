import { describe, expect, it } from "vitest";
import { dismissalOf } from "#core/finding/answer";
import type { Found } from "#core/finding/found";
import { findingsOf } from "#core/finding/findings";
import { RungReader } from "#core/finding/reader";
import { slice } from "#core/series/series";
import { sp500 } from "#core/testing/openData";
import { ALL_HOURS, Calendar } from "#core/time/calendar";
import { patternsOfLonger } from "./inSight.ts";

const days = slice(sp500(), 0, 900);
const facts = findingsOf(new RungReader(days, { count: 1, unit: "day" }, new Calendar(ALL_HOURS), 0.01));
const patterns = facts.filter(({ kind }) => kind === "pattern");
const keys = (found: readonly Found[]) => found.map(({ key }) => key);

describe("patterns of longer rungs", () => {
  it("stay in sight on every shorter rung, not on their own nor on longer ones, and nothing but patterns does", () => {
    expect(patterns.length).toBeGreaterThan(1);
    expect(keys(patternsOfLonger(facts, [], "PT1H"))).toEqual(keys(patterns));
    expect(patternsOfLonger(facts, [], "P1D")).toEqual([]);
    expect(patternsOfLonger(facts, [], "P1W")).toEqual([]);
  });
  it("are gone once they were answered", () => {
    const dismissed = dismissalOf(patterns[0], "m", "id-1");
    expect(keys(patternsOfLonger(facts, [dismissed], "PT1H"))).toEqual(keys(patterns.slice(1)));
  });
});
