import { describe, expect, it } from "vitest";
import { PAYMENTS } from "#core/readers/membership";
import { membershipText } from "./membershipText.ts";

describe("where a membership stands, in words", () => {
  const until = Date.parse("2026-11-29T07:21:00Z");
  it("has its day and hour, and is another sentence for each state", () => {
    expect(membershipText({ state: "paid", until })).toBe("paid until Sun 29 Nov 2026, 07:21 UTC");
    expect(membershipText({ state: "failed", until })).toMatch(/^the last charge failed; it goes on until Sun 29 Nov/);
    expect(new Set(PAYMENTS.map((state) => membershipText({ state, until }))).size).toBe(PAYMENTS.length);
  });
});
