import { describe, expect, it } from "vitest";
import { agreementOf } from "#core/finding/agreement";
import { machineBearing } from "#core/finding/bearing";
import { FINDING_DEFAULTS } from "#core/finding/params";
import { RungReader } from "#core/finding/reader";
import type { Series } from "#core/series/series";
import { days, sp500 } from "#core/testing/openData";
import { turned } from "#core/testing/mirror";
import { ALL_HOURS, Calendar } from "#core/time/calendar";

type Candle = [number, number, number, number];
const read = (series: Series) =>
  new RungReader(series, { count: 1, unit: "day" }, new Calendar(ALL_HOURS), 0.01, FINDING_DEFAULTS);
/** Seven up, four back, again and again. */
const rising = (bars: number): Candle[] => {
  let close = 100;
  return Array.from({ length: bars }, (_, i): Candle => {
    const open = close;
    close += i % 11 < 7 ? 2 : -1.5;
    return [open, Math.max(open, close) + 1, Math.min(open, close) - 1, close];
  });
};
const facts = (series: Series) =>
  machineBearing(read(series)).reasons.map(({ what, direction }) => `${what} ${direction}`);

// Each reason is common practice, no source.
describe("the machine's bearing of a rung", () => {
  it("rests on structure, closes, the cloud and the long average, each with its price", () => {
    const bearing = machineBearing(read(days(...rising(260))));
    expect(bearing.direction).toBe("up");
    expect(facts(days(...rising(260)))).toEqual(
      expect.arrayContaining(["structure up", "closes up", "cloud up", "long average up"]),
    );
    for (const { what, price } of bearing.reasons) if (what !== "ranges") expect(price, what).toBeGreaterThan(0);
  });
  it("counts the closes and the averages the analyst has chosen", () => {
    const series = days(...rising(260));
    const chosen = machineBearing(
      new RungReader(series, { count: 1, unit: "day" }, new Calendar(ALL_HOURS), 0.01, {
        ...FINDING_DEFAULTS,
        closes: 5,
        reference: 20,
        long: 100,
      }),
    );
    const says = (what: string) => chosen.reasons.find((reason) => reason.what === what)?.says;
    expect([says("closes"), says("long average")]).toEqual([
      "5 closes above the 20-bar average",
      "above the 100-bar average",
    ]);
    const mean = (bars: number) => series.close.slice(-bars).reduce((sum, close) => sum + close, 0) / bars;
    expect(chosen.reasons.find(({ what }) => what === "long average")?.price).toBeCloseTo(mean(100), 9);
  });
  it("every reason names what it rests on, at a price and a bar of the rung", () => {
    const series = sp500();
    const { reasons } = machineBearing(read(series));
    expect(reasons.length).toBeGreaterThan(3);
    for (const { what, price, rests } of reasons) {
      expect(rests.length, what).toBeGreaterThan(0);
      for (const { bottom, top, time } of rests) {
        expect(top).toBeGreaterThanOrEqual(bottom);
        expect(series.time.includes(time), what).toBe(true);
      }
      if (price !== undefined)
        expect(
          rests.some(({ bottom, top }) => bottom === price || top === price),
          what,
        ).toBe(true);
    }
    const [
      {
        rests: [swing],
      },
    ] = reasons.filter(({ what }) => what === "structure");
    const at = series.time.indexOf(swing.time);
    expect([series.high[at], series.low[at]]).toContain(swing.bottom);
  });
  it("what cannot be judged yet does not speak", () => {
    expect(machineBearing(read(days()))).toEqual({ direction: "sideways", score: 0, reasons: [] });
    expect(
      facts(days(...rising(30))).some((fact) => fact.startsWith("long average") || fact.startsWith("closes")),
    ).toBe(false);
  });
  it("a range price is in speaks for sideways", () => {
    const flat = Array.from({ length: 12 }, (_, i): Candle => [400, 401, 399, i % 2 === 0 ? 400.5 : 399.5]);
    expect(facts(days(...rising(100), ...flat))).toContain("sideways sideways");
  });
  it("turned upside down points the other way, on open data (S&P 500, vega-datasets)", () => {
    for (const end of [300, 500, 700, 900]) {
      const whole = sp500();
      const series: Series = {
        ...whole,
        length: end,
        time: whole.time.slice(0, end),
        open: whole.open.slice(0, end),
        high: whole.high.slice(0, end),
        low: whole.low.slice(0, end),
        close: whole.close.slice(0, end),
        volume: whole.volume.slice(0, end),
      };
      const [plain, mirrored] = [
        machineBearing(read(series)),
        machineBearing(read(turned(series, (price) => 10_000 - price))),
      ];
      expect(mirrored.score).toBeCloseTo(-plain.score, 9);
    }
  });
});

describe("the rungs of a market", () => {
  const rungs = (ways: string) =>
    [...ways].map((way, i) => ({
      rung: String(i),
      direction: ({ u: "up", d: "down", s: "sideways" } as const)[way as "u" | "d" | "s"],
    }));
  it.each([
    ["uuusd", { way: "up", count: 3, of: 5, dissent: ["4"] }],
    ["uddd", { way: "down", count: 3, of: 4, dissent: ["0"] }],
    ["uds", { way: undefined, count: 1, of: 3, dissent: [] }],
    ["", { way: undefined, count: 0, of: 0, dissent: [] }],
  ])("%s agree so far: %j", (ways, agreement) => expect(agreementOf(rungs(ways))).toEqual(agreement));
});
