import { describe, expect, it } from "vitest";
import { isOld } from "./useEvenings.ts";

const MINUTE = 60_000;

describe("an evening list that stands open", () => {
  const read = { now: 0, at: 1_000_000 };
  it("is read anew once the market's clock has gone on by a quarter of an hour", () => {
    expect(isOld(read, 14 * MINUTE, read.at + 14 * MINUTE)).toBe(false);
    expect(isOld(read, 15 * MINUTE, read.at + 15 * MINUTE)).toBe(true);
    // A simulated clock may be put back as well.
    expect(isOld(read, -60 * MINUTE, read.at + MINUTE)).toBe(true);
  });
  it("never more often than every twenty seconds, however fast that clock runs", () => {
    expect(isOld(read, 60 * MINUTE, read.at + 1_000)).toBe(false);
    expect(isOld(read, 60 * MINUTE, read.at + 20_000)).toBe(true);
  });
});
