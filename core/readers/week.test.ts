import { describe, expect, it } from "vitest";
import { lastSunday } from "#core/readers/week";

const at = (text: string) => Date.parse(text);

describe("the week of readers", () => {
  it("ends on Sundays at 17:00 UTC, to the millisecond", () => {
    // 29 November 2026 is a Sunday (ISO 8601 week date 2026-W48-7).
    const end = at("2026-11-29T17:00:00Z");
    expect(lastSunday(end)).toBe(end);
    expect(lastSunday(end - 1)).toBe(at("2026-11-22T17:00:00Z"));
    expect(lastSunday(at("2026-12-06T16:59:59.999Z"))).toBe(end);
    expect(new Date(lastSunday(0)).toUTCString()).toMatch(/^Sun, 28 Dec 1969 17:00:00/);
  });
});
