import fc from "fast-check";
import { threeblackcrows, threewhitesoldiers } from "technicalindicators";
import { describe, expect, it } from "vitest";
import { CANDLES, CANDLE_RULES, candlesAt, type CandleName } from "#core/candles/candles";
import { days, sp500, walk } from "#core/testing/openData";
import { turned } from "#core/testing/mirror";

type Four = [open: number, high: number, low: number, close: number];
const at = (...bars: Four[]) =>
  candlesAt(days(...bars), bars.length - 1, 0.01).map(({ name, way, from }) => `${name} ${way ?? "-"} ${from}`);

// The rules and their shares are common practice, no source; each case sits on the edge of one of them.
describe("candles, worked by hand", () => {
  it.each<[string, Four[], string[]]>([
    [
      "a body that covers the one before, ends included",
      [
        [102, 103, 99, 100],
        [100, 104, 99.5, 102.5],
      ],
      ["engulfing up 0"],
    ],
    [
      "an equal body does not",
      [
        [102, 103, 99, 100],
        [100, 103.5, 99, 102],
      ],
      [],
    ],
    ["a lower wick of six tenths", [[106, 110, 100, 109]], ["pin up 0"]],
    ["of less", [[105.9, 110, 100, 109]], []],
    ["an upper one", [[101, 110, 100, 104]], ["pin down 0"]],
    [
      "a bar that holds within the one before, equal ends too",
      [
        [100, 110, 100, 108],
        [101, 110, 100, 108],
      ],
      ["inside - 0"],
    ],
    [
      "one tick above is not inside",
      [
        [100, 110, 100, 108],
        [101, 110.01, 100, 108],
      ],
      [],
    ],
    [
      "a bar that goes beyond both ends",
      [
        [101, 109, 100, 108],
        [102, 110, 99, 109],
      ],
      ["outside up 0"],
    ],
    [
      "beyond one end alone is not outside",
      [
        [101, 109, 100, 108],
        [102, 110, 100, 109],
      ],
      [],
    ],
    [
      "an outside bar that closes where it opened has no way",
      [
        [104, 109, 100, 103],
        [104, 110, 99, 104],
      ],
      ["outside - 0", "indecision - 1"],
    ],
    ["a body of a quarter", [[104, 110, 100, 106.5]], ["indecision - 0"]],
    ["of more", [[104, 110, 100, 106.51]], []],
    [
      "morning: a long fall, a small body below, half of the fall taken back",
      [
        [110, 111, 99, 100],
        [100, 101.5, 97, 98],
        [99, 106, 98.5, 105],
      ],
      ["star up 0"],
    ],
    [
      "less than half taken back",
      [
        [110, 111, 99, 100],
        [100, 101.5, 97, 98],
        [99, 106, 98.5, 104.99],
      ],
      [],
    ],
    [
      "a middle body above the first close",
      [
        [110, 111, 99, 100],
        [100.5, 103, 99, 102.5],
        [101, 106, 99.5, 105.5],
      ],
      [],
    ],
    [
      "a middle body too long",
      [
        [110, 111, 99, 100],
        [100, 101, 96, 96.9],
        [97, 106, 96.9, 105.5],
      ],
      [],
    ],
    [
      "evening",
      [
        [100, 111, 99, 110],
        [110, 113, 108.5, 112],
        [111, 111.5, 104, 105],
      ],
      ["star down 0"],
    ],
    [
      "an evening whose middle body lies below the first close",
      [
        [100, 111, 99, 110],
        [109.5, 109.6, 107, 107.5],
        [108, 108.5, 104, 104.5],
      ],
      [],
    ],
    [
      "three that rise, each close above the one before",
      [
        [1, 4, 1, 3],
        [2, 5, 2, 4],
        [3, 6, 3, 5],
      ],
      ["three up 0"],
    ],
    [
      "equal closes",
      [
        [1, 4, 1, 3],
        [2, 5, 2, 4],
        [2.5, 6, 2, 4],
      ],
      [],
    ],
    [
      "three that fall",
      [
        [9, 9, 6, 7],
        [8, 8, 5, 6],
        [7, 7, 4, 5],
      ],
      ["three down 0"],
    ],
    ["a twentieth of the range left at both ends", [[101, 120, 100, 119]], ["shaven up 0"]],
    ["and turned over", [[119, 120, 100, 101]], ["shaven down 0"]],
    ["a tick more at one end", [[101.01, 120, 100, 119]], []],
    ["a bar without range says nothing", [[5, 5, 5, 5]], []],
  ])("%s", (_, bars, expected) => expect(at(...bars)).toEqual(expected));

  it("names asked for alone are looked for", () =>
    expect(candlesAt(days([104, 110, 100, 106]), 0, 0.01, { names: ["pin"] })).toEqual([]));
  it("a wick of six tenths of a range of decimals is one", () =>
    expect(candlesAt(days([0.3, 0.5, 0, 0.45]), 0, 0.01, { names: ["pin"] })).toHaveLength(1));
});

describe("laws", () => {
  const drawn = fc.array(fc.tuple(fc.integer({ min: -12, max: 12 }), fc.nat(8), fc.nat(8)), {
    minLength: 3,
    maxLength: 30,
  });
  const all = (series: ReturnType<typeof walk>, tick = 0.25) =>
    Array.from({ length: series.length }, (_, i) => candlesAt(series, i, tick)).flat();
  it("mirrored prices turn the way, nothing else", () =>
    fc.assert(
      fc.property(drawn, (steps) => {
        const series = walk(steps, 400);
        const flip = { up: "down", down: "up" } as const;
        expect(
          all(turned(series, (price) => 900 - price)).map((one) => (one.way ? { ...one, way: flip[one.way] } : one)),
        ).toEqual(all(series));
      }),
    ));
  it("prices and tick times 1024 change nothing, and only the bar and the two before it count", () =>
    fc.assert(
      fc.property(drawn, (steps) => {
        const series = walk(steps, 400);
        expect(
          all(
            turned(series, (price) => price * 1024),
            256,
          ),
        ).toEqual(all(series));
        const last = series.length - 1;
        const short = walk(steps, 400);
        for (let i = 0; i < last - 2; i++) short.close[i] = short.high[i];
        expect(candlesAt(short, last, 0.25)).toEqual(candlesAt(series, last, 0.25));
      }),
    ));
});

/** Bars of open data up to `i`, as the reference library takes them. */
const upTo = (series: ReturnType<typeof sp500>, i: number, of: number) => {
  const part = (column: Float64Array) => Array.from(column.subarray(i - of + 1, i + 1));
  return { open: part(series.open), high: part(series.high), low: part(series.low), close: part(series.close) };
};

// technicalindicators 3.1 (npm) on S&P 500 days of 2000 to 2010 (vega-datasets, npm). It asks for opens within
// the body before and does not ask closes to go on: of what it finds, what closes further each time is found here.
describe("against a reference library on open data", () => {
  const series = sp500();
  const found = (name: CandleName, way?: "up" | "down") => (i: number) =>
    candlesAt(series, i, 1e-6, { names: [name], rules: { ...CANDLE_RULES, long: 1e-9, star: 1 } }).some(
      (one) => way === undefined || one.way === way,
    );
  it.each([
    ["soldiers", threewhitesoldiers, 1, found("three", "up")],
    ["crows", threeblackcrows, -1, found("three", "down")],
  ])("%s", (_, reference, sign, own) => {
    let [theirs, missed] = [0, 0];
    const { close } = series;
    for (let i = 2; i < series.length; i++) {
      if (!reference(upTo(series, i, 3) as never)) continue;
      if (sign * (close[i] - close[i - 1]) <= 0 || sign * (close[i - 1] - close[i - 2]) <= 0) continue;
      theirs++;
      if (!own(i)) missed++;
    }
    expect({ theirs: theirs > 5, missed }).toEqual({ theirs: true, missed: 0 });
  });
});

it("are told in the order of the list", () =>
  expect(CANDLES).toEqual(["engulfing", "pin", "inside", "outside", "indecision", "star", "three", "shaven"]));
