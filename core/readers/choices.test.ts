import { describe, expect, it } from "vitest";
import { CHOICES, MOMENT_NAMES, MOMENTS, wantsEdition, wantsMoment, whenSent } from "#core/readers/choices";

const HOUR = 3_600_000;
const utc = (instant: number) => (instant / HOUR) % 24;
const at = (hour: number) => Date.UTC(2026, 9, 14) + hour * HOUR;

describe("quiet hours", () => {
  it("put off what falls into them to their end, over midnight too, and nothing else", () => {
    const night = { from: 22, to: 7 };
    expect(whenSent(at(12), night, utc)).toBe(at(12));
    expect(whenSent(at(23), night, utc)).toBe(at(31));
    expect(whenSent(at(3.5), night, utc)).toBe(at(7));
    expect(whenSent(at(22), night, utc)).toBe(at(31));
    expect(whenSent(at(7), night, utc)).toBe(at(7));
    const noon = { from: 12, to: 13 };
    expect([11.9, 12, 12.5, 13].map((hour) => whenSent(at(hour), noon, utc))).toEqual([
      at(11.9),
      at(13),
      at(13),
      at(13),
    ]);
    expect(whenSent(at(3), null, utc)).toBe(at(3));
    expect(whenSent(at(5), { from: 5, to: 5 }, utc)).toBe(at(5));
  });

  it("never put anything off by a day or more, and what they give is outside of them", () => {
    for (let from = 0; from < 24; from++)
      for (let to = 0; to < 24; to++)
        for (let hour = 0; hour < 24; hour += 1.5) {
          const sent = whenSent(at(hour), { from, to }, utc);
          expect(sent - at(hour)).toBeGreaterThanOrEqual(0);
          expect(sent - at(hour)).toBeLessThan(24 * HOUR);
          expect(whenSent(sent, { from, to }, utc)).toBe(sent);
        }
  });
});

describe("what a reader wants", () => {
  const morning = { kind: "morning" as const, markets: ["tin"], corrects: false };
  it("are editions of kinds and markets, those of no market, and corrections by a choice of their own", () => {
    expect(wantsEdition(CHOICES, morning)).toBe(true);
    expect(wantsEdition({ ...CHOICES, kinds: ["close"] }, morning)).toBe(false);
    expect(wantsEdition({ ...CHOICES, markets: ["oil"] }, morning)).toBe(false);
    expect(wantsEdition({ ...CHOICES, markets: ["oil"] }, { ...morning, markets: [] })).toBe(true);
    expect(wantsEdition({ ...CHOICES, kinds: [] }, { ...morning, corrects: true })).toBe(true);
    expect(wantsEdition({ ...CHOICES, corrections: false }, { ...morning, corrects: true })).toBe(false);
  });
  it("are moments of calls, on their markets; each event is told under one name at most", () => {
    expect(wantsMoment(CHOICES, "tin", "stopped")).toBe(false);
    expect(wantsMoment({ ...CHOICES, moments: ["stop"] }, "tin", "stopped")).toBe(true);
    expect(wantsMoment({ ...CHOICES, moments: ["stop"] }, "tin", "target")).toBe(false);
    expect(wantsMoment({ ...CHOICES, moments: ["stop"], markets: ["oil"] }, "tin", "stopped")).toBe(false);
    const events = MOMENT_NAMES.flatMap((name): readonly string[] => MOMENTS[name].events);
    expect(new Set(events).size).toBe(events.length);
  });
});
