import { describe, expect, it } from "vitest";
import { ConditionFault } from "#core/conditions/fields";
import { conditionOf, needsOf, nextStep, readTerms, saySteps, startSteps, type Terms } from "#core/conditions/registry";
import type { Met } from "#core/conditions/condition";
import { asInstant } from "#core/observe/instant";
import type { Layer } from "#core/series/layers";
import { layer, momentsOf, rows } from "#core/testing/told";
import { sp500 } from "#core/testing/openData";

const HOUR = 3_600_000;
const MONDAY = Date.UTC(2024, 0, 1);
type Row = [open: number, high: number, low: number, close: number];
const hours = (...bars: Row[]): Layer[] => [
  layer("PT1H", rows(...bars.map((bar, i): [number, ...Row] => [MONDAY + i * HOUR, ...bar]))),
];
const market = { decimals: 1 };

/** What a condition says of each bar it judges: met, failed, or "?" where that is not known. */
function judge(terms: Terms, layers: readonly Layer[], since = MONDAY): string {
  const condition = conditionOf(terms);
  let state = condition.start(terms);
  let said = "";
  for (const moment of momentsOf(layers, condition.needs(terms))) {
    if (moment.told.from < since) continue;
    const step = condition.next(terms, state, {
      moment,
      since: asInstant(since),
      tolerance: 1e-5,
      zone: "UTC",
      met: [],
    });
    state = JSON.parse(JSON.stringify(step.state)) as unknown;
    said += step.judged.map(({ met }) => (met === undefined ? "?" : met ? "x" : ".")).join("");
  }
  return said;
}
const read = (raw: unknown) => readTerms(raw, "c");

describe("conditions", () => {
  it("close: strictly beyond, by the closes of its rung", () => {
    const bars = hours([9, 12, 9, 10], [10, 12, 9, 10.5], [10, 10, 8, 9], [9, 12, 9, 11]);
    expect(judge(read({ on: "close", side: "above", price: 10 }), bars)).toBe(".x.x");
    expect(judge(read({ on: "close", side: "below", price: 10, rung: "PT2H" }), bars)).toBe("..");
    expect(judge(read({ on: "close", side: "above", price: 10, rung: "PT2H" }), bars)).toBe("xx");
  });
  it("close: a bar that opened before the condition began to look does not count", () => {
    const bars = hours([9, 12, 9, 11], [10, 12, 9, 11], [10, 12, 9, 11], [9, 12, 9, 11]);
    expect(judge(read({ on: "close", side: "above", price: 10, rung: "PT2H" }), bars, MONDAY + HOUR)).toBe("x");
  });
  it("touch: a wick that reaches it, its ends included; a gap over it is none", () => {
    const bars = hours([9, 9.9, 9, 9], [9, 10, 9, 9], [12, 13, 11.1, 12], [12, 12, 11, 12]);
    expect(judge(read({ on: "touch", price: 10 }), bars)).toBe(".x..");
    expect(judge(read({ on: "touch", band: [10, 11] }), bars)).toBe(".x.x");
  });
  it("leave: a close at least so far beyond the band", () => {
    const bars = hours([9, 12, 9, 11.9], [9, 12, 9, 12], [9, 12, 7, 7.9]);
    expect(judge(read({ on: "leave", band: [10, 11], by: 1, side: "above" }), bars)).toBe(".x.");
    expect(judge(read({ on: "leave", band: [10, 11], by: 2, side: "below" }), bars)).toBe("..x");
  });
  it("hold: closes in a row, begun anew by one that is not beyond", () => {
    const bars = hours([9, 12, 9, 11], [9, 12, 9, 10], [9, 12, 9, 11], [9, 12, 9, 11], [9, 12, 9, 11]);
    expect(judge(read({ on: "hold", side: "above", price: 10, bars: 2 }), bars)).toBe("...xx");
  });
  it(
    "sweep: a wick beyond and a close back, at the price too; on one of the next bars only when that " + "was asked",
    () => {
      const bars = hours([10, 10, 8.9, 9.5], [9, 9, 8.5, 8.7], [8.7, 9.2, 8.6, 9], [9, 10, 9, 9.5]);
      expect(judge(read({ on: "sweep", side: "low", price: 9 }), bars)).toBe("x.x.");
      const late = hours([10, 10, 8, 8.5], [9.1, 9.4, 9, 9.3], [9, 9.5, 9, 9.2]);
      expect(judge(read({ on: "sweep", side: "low", price: 9 }), late)).toBe("...");
      expect(judge(read({ on: "sweep", side: "low", price: 9, within: 1 }), late)).toBe(".x.");
      expect(judge(read({ on: "sweep", side: "high", price: 9.4 }), late)).toBe("x.x");
    },
  );
  it("sweep: leaves the furthest price of the excursion", () => {
    const bars = hours([10, 10, 8.4, 8.5], [8.5, 8.8, 8.2, 8.6], [8.6, 9.4, 8.5, 9.3]);
    const terms = read({ on: "sweep", side: "low", price: 9, within: 2 });
    let met: Met | undefined;
    let state = conditionOf(terms).start(terms);
    for (const moment of momentsOf(bars, [])) {
      const step = conditionOf(terms).next(terms, state, {
        moment,
        since: asInstant(MONDAY),
        tolerance: 1e-5,
        zone: "UTC",
        met: [],
      });
      state = step.state;
      met = step.judged.find((one) => one.met)?.by ?? met;
    }
    expect(met).toMatchObject({ swept: 8.2, close: 9.3 });
  });
  it("sweep: every close is judged for itself, so one wick may be met by several", () => {
    // A wick at the second hour; the third and fourth close back as well, the fifth is too late.
    const layers = hours(
      [100, 101, 99, 100],
      [100, 106, 99, 104],
      [104, 104, 103, 103],
      [103, 104, 102, 103],
      [103, 104, 102, 103],
    );
    const terms = read({ on: "sweep", side: "high", price: 105, rung: "PT1H", within: 2 });
    expect(judge(terms, layers)).toBe(".xxx.");
    const inside = read({ on: "all", of: [{ on: "sweep", side: "high", price: 105, rung: "PT1H", within: 2 }] });
    expect(judge(inside, layers)).toBe(".xxx.");
    // The next wick begins anew: what it swept is its own extreme.
    const twice = hours([100, 108, 99, 104], [104, 106, 103, 104]);
    expect(judge(terms, twice)).toBe("xx");
  });
  it("time: the bar opens within a window of the day, over midnight, in a zone, on its days", () => {
    const bars = hours(...Array.from({ length: 24 }, (): Row => [1, 1, 1, 1]));
    const window = (fields: object) =>
      [...judge(read({ on: "time", ...fields }), bars)].flatMap((met, hour) => (met === "x" ? [hour] : []));
    expect(window({ from: "08:00", to: "10:00" })).toEqual([8, 9]);
    expect(window({ from: "22:00", to: "01:00" })).toEqual([0, 22, 23]);
    // 1 January is a Monday; in Honolulu it is still Sunday until 10:00 UTC.
    expect(window({ from: "00:00", to: "24:00", days: [7], zone: "Pacific/Honolulu" })).toEqual([
      0, 1, 2, 3, 4, 5, 6, 7, 8, 9,
    ]);
  });
  it("candle: an engulfing one that closes in the band", () => {
    const bars = hours([10, 10.2, 9.4, 9.5], [9.4, 10.4, 9.3, 10.3], [10, 10, 9, 9.5]);
    expect(judge(read({ on: "candle", pattern: "engulfing up" }), bars)).toBe(".x.");
    expect(judge(read({ on: "candle", pattern: "engulfing", at: [10, 10.2] }), bars)).toBe("...");
    expect(judge(read({ on: "candle", pattern: "either", at: [10, 11] }), bars)).toBe(".x.");
  });
  // Open data: S&P 500, daily (vega-datasets).
  it("shift: those of the structure, its extreme inside a band where that was asked", () => {
    const layers = [layer("P1D", sp500())];
    const up = read({ on: "shift", direction: "up" });
    const count = (said: string) => [...said].filter((met) => met === "x").length;
    const [all, inside, without] = [
      up,
      read({ on: "shift", direction: "up", inside: [700, 900] }),
      read({ on: "shift", direction: "up", inside: [900.01, 1e9] }),
    ].map((terms) => count(judge(terms, layers, -Infinity)));
    expect(all).toBeGreaterThan(20);
    expect(inside).toBeGreaterThan(0);
    expect(inside + without).toBe(
      all - count(judge(read({ on: "shift", direction: "up", inside: [0, 699.99] }), layers, -Infinity)),
    );
  });
  it("all, any, not: each part stands as at its last close; what is not known yet is neither", () => {
    const bars = hours([9, 12, 9, 11], [9, 12, 9, 9], [9, 12, 9, 11], [9, 12, 9, 11]);
    const hour = { on: "close", side: "above", price: 10 };
    const two = { ...hour, rung: "PT2H" };
    expect(judge(read({ on: "all", of: [hour, two] }), bars)).toBe("?..x");
    expect(judge(read({ on: "any", of: [hour, two] }), bars)).toBe("x.xx");
    expect(judge(read({ on: "not", of: [two] }), bars)).toBe("?xx.");
  });
  it("then: one after the other, each in a bar that opened when the one before was known, and within its bars", () => {
    const bars = hours([9, 12, 9, 11], [9, 12, 9, 9], [9, 12, 9, 9], [9, 12, 9, 11], [9, 9, 8, 8.5]);
    const above = { when: { on: "close", side: "above", price: 10 } };
    const below = { when: { on: "close", side: "below", price: 10 } };
    expect(judge(read({ on: "then", of: [above, below] }), bars)).toBe(".x..x");
    expect(
      judge(read({ on: "then", of: [above, { when: { on: "close", side: "below", price: 8.6 }, within: 1 }] }), bars),
    ).toBe("....x");
  });
});

describe("steps", () => {
  const bars = hours([9, 12, 9, 9], [9, 12, 9, 9], [9, 12, 9, 11], [9, 12, 9, 11]);
  const steps = [{ when: read({ on: "close", side: "above", price: 10 }), within: 2 }];
  it("lapse when their bars have gone by", () => {
    let state = startSteps(steps, asInstant(MONDAY));
    const said = momentsOf(bars, []).map((moment) => {
      const step = nextStep(steps, state, { moment, tolerance: 0, zone: "UTC" });
      state = step.state;
      return [step.isMet, step.lapsed];
    });
    expect(said.slice(0, 2)).toEqual([
      [false, false],
      [false, true],
    ]);
  });
  it("say themselves", () => {
    const two = [...steps, { when: read({ on: "sweep", side: "low", price: 9, within: 3, rung: "PT4H" }) }];
    expect(saySteps(two, market)).toBe(
      "within 2 bars a candle closes above 10.0, then price sweeps the low 9.0 and a 4 h candle closes " +
        "back within 3 bars",
    );
  });
});

describe("terms from outside", () => {
  const fault = (raw: unknown): string => {
    try {
      read(raw);
    } catch (error) {
      if (error instanceof ConditionFault) return error.message;
      throw error;
    }
    return "none";
  };
  it("are read with what they leave out, and their prices and needs are known", () => {
    const terms = read({
      on: "any",
      of: [
        { on: "sweep", side: "high", price: 3 },
        { on: "shift", direction: "up", rung: "PT1H" },
      ],
    });
    expect(terms).toEqual({
      on: "any",
      of: [
        { on: "sweep", side: "high", price: 3, within: 0 },
        { on: "shift", direction: "up", rung: "PT1H" },
      ],
    });
    expect(needsOf([terms])).toContainEqual({ rung: "PT1H", of: "structure" });
    expect(conditionOf(terms).say(terms, market)).toBe(
      "price sweeps the high 3.0 and a candle closes back or 1 h structure shifts up",
    );
  });
  it("of the extreme of a day before name its side once", () => {
    const swept = read({ on: "sweep", side: "high", price: { previous: "P1D", of: "high" }, within: 1 });
    expect(conditionOf(swept).say(swept, market)).toBe(
      "price sweeps the high of the day before and a candle closes back within 1 bar",
    );
  });
  it("that are nonsense are a fault in one sentence that names the field", () => {
    expect(fault(null)).toBe('"c" must be an object.');
    expect(fault({ on: "touches" })).toMatch(/^"c\.on" must be one of /);
    expect(fault({ on: "close", side: "over", price: 1 })).toBe('"c.side" must be "above" or "below".');
    expect(fault({ on: "close", side: "above", price: Infinity })).toBe('"c.price" must be a number.');
    expect(fault({ on: "close", side: "above", price: 1, rung: "4h" })).toMatch(/ISO 8601/);
    expect(fault({ on: "close", side: "above", price: 1, prcie: 2 })).toMatch(/"c\.prcie" is not known here/);
    expect(fault({ on: "touch" })).toMatch(/"c\.price" is wanted/);
    expect(fault({ on: "touch", price: 1, band: [1, 2] })).toMatch(/not both/);
    expect(fault({ on: "leave", band: [2, 1], by: 0, side: "above" })).toMatch(/the lower first/);
    expect(fault({ on: "time", from: "8", to: "10:00" })).toMatch(/clock time/);
    expect(fault({ on: "time", from: "08:00", to: "10:00", days: [0] })).toMatch(/weekdays/);
    expect(fault({ on: "not", of: [] })).toBe('"c.of" must be a list of 1.');
    expect(fault({ on: "not", of: [{ on: "close" }] })).toMatch(/^"c\.of\[0\]\.side"/);
    const deep = (n: number): object => (n === 0 ? { on: "touch", price: 1 } : { on: "not", of: [deep(n - 1)] });
    expect(fault(deep(4))).toBe("none");
    expect(fault(deep(9))).toMatch(/deep/);
  });
});
