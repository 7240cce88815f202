import { describe, expect, it } from "vitest";
import { kindOf } from "#core/marks/registry";
import { gaps } from "#core/zones/gaps";
import { days, sp500 } from "#core/testing/openData";
import { contextOf, day, live, mark, say } from "#core/testing/marks";
import type { Mark } from "#core/marks/kind";

type Candle = [number, number, number, number];
const told = (one: Mark, ...candles: Candle[]) =>
  live(one, days(...candles)).events.map(({ event, time }) => `${event} ${(time - day(0)) / 86_400_000}`);

// Facts of the trade: common practice, no source.
describe("a gap", () => {
  const rise: Candle[] = [
    [10, 11, 9, 10],
    [10, 15, 10, 15],
    [15, 16, 13, 15],
  ];
  const whole = (one: Mark, ...candles: Candle[]) => kindOf(one).complete!(one, contextOf(days(...candles)));
  it("placed with one click on the middle candle is read from its neighbours", () => {
    expect(whole(mark("gap", [[1, 12]]), ...rise).anchors).toEqual([
      { time: day(0), price: 11 },
      { time: day(2), price: 13 },
    ]);
    const nothing = whole(mark("gap", [[1, 12]]), [10, 11, 9, 10], [10, 12, 9, 11], [11, 12, 10, 11]);
    expect(kindOf(nothing).check(nothing, contextOf(days()))).toEqual([
      { sentence: "There is no gap here: the third candle meets the first." },
    ]);
  });
  const gap = mark("gap", [
    [0, 11],
    [2, 13],
  ]);
  it("is worked through by wicks strictly inside, and filled at its far edge; only what is left counts", () => {
    expect(told(gap, ...rise, [15, 15, 13, 14], [14, 14, 12, 13], [13, 13, 11, 12])).toEqual(["touched 4", "filled 5"]);
    const half = days(...rise, [14, 14, 12, 13]);
    expect(kindOf(gap).prices(gap, live(gap, half))).toMatchObject([{ bottom: 11, top: 12, role: "support" }]);
    expect(say(gap, half)).toBe("Fair value gap up 11.00 to 12.00, 50 % filled, middle 11.50.");
    expect(say(gap, days(...rise, [14, 14, 10, 13]))).toBe("Fair value gap up, filled.");
  });
  it("lives as the detector says, on open data (S&P 500, vega-datasets)", () => {
    const series = sp500();
    for (const found of gaps(series).filter(({ at }) => at % 40 === 0)) {
      const [near, far] = found.direction === "up" ? [found.top, found.bottom] : [found.bottom, found.top];
      const one: Mark = {
        ...gap,
        anchors: [
          { time: series.time[found.at - 2], price: far },
          { time: series.time[found.at], price: near },
        ],
      };
      const { state, status } = live(one, series);
      expect(status).toBe(found.state === "partly" ? "partly filled" : found.state);
      expect((state as { share: number }).share).toBeCloseTo(found.filledShare, 9);
    }
  });
});

describe("resting orders", () => {
  const highs = mark(
    "pool",
    [
      [0, 20],
      [2, 20.4],
    ],
    { side: "high", of: "equal" },
  );
  const quiet: Candle[] = [
    [19, 20, 18, 19],
    [19, 19.5, 18, 19],
    [19, 20.4, 18, 19],
  ];
  it("are swept by a wick beyond the outermost, taken by a close; touching it does neither", () => {
    expect(told(highs, ...quiet, [19, 20.4, 19, 20.4], [20, 21, 19, 20], [20, 22, 20, 21])).toEqual([
      "swept 4",
      "taken 5",
    ]);
    expect(say(highs, days(...quiet, [20, 21, 19, 20]))).toBe("Equal highs (2) 20.40, swept by 0.60.");
    expect(live(highs, days(...quiet, [20, 22, 20, 21])).dead).toBe(true);
  });
  it("of a row rest on its first, of a period carry its name", () => {
    const row = mark(
      "pool",
      [
        [0, 10],
        [1, 11],
        [2, 12],
      ],
      { side: "low", of: "row" },
    );
    expect(say(row, days(...quiet))).toBe("Row of rising lows, 3 swings 10.00, untouched.");
    expect(say(mark("pool", [[0, 21]], { side: "high", of: "Previous week's high" }), days(...quiet))).toBe(
      "Previous week's high 21.00, untouched.",
    );
  });
});

describe("a break, a shift, a sweep", () => {
  const base: Candle[] = [
    [9, 10, 8, 9],
    [9, 9, 8, 9],
    [9, 12, 9, 11],
  ];
  const event = (kind: string) =>
    mark(
      "structure",
      [
        [0, 10],
        [2, 10],
      ],
      { event: kind, direction: "up" },
    );
  it("is retested by a wick back to its price, and taken back by a close", () => {
    expect(told(event("break"), ...base, [11, 12, 10.5, 11], [11, 11, 10, 10.5], [10.5, 10.5, 9, 9.5])).toEqual([
      "retested 4",
      "takenBack 5",
    ]);
    expect(live(event("break"), days(...base, [10, 10, 9, 9])).dead).toBe(true);
  });
  it("a shift that price has taken back is still where the trend turned", () => {
    const { status, dead } = live(event("shift"), days(...base, [10, 10, 9, 9]));
    expect([status, dead]).toEqual(["taken back", false]);
  });
  it("placed by hand says what the bar did", () => {
    const placed = (candle: Candle) => {
      const one = mark("structure", [
        [0, 10],
        [2, 9],
      ]);
      return kindOf(one).complete!(one, contextOf(days(base[0], base[1], candle)));
    };
    expect(placed([9, 12, 9, 11])).toMatchObject({
      props: { event: "break", direction: "up" },
      anchors: [{ price: 10 }, { price: 10 }],
    });
    expect(placed([9, 12, 9, 9.5]).props).toEqual({ event: "sweep", direction: "up" });
  });
});
