import { describe, expect, it } from "vitest";
import { bandsOfMarks } from "#core/areas/fromMarks";
import { followMark } from "#core/marks/follow";
import type { Mark } from "#core/marks/kind";
import { pattern, type PatternProps, type PatternState } from "#core/marks/pattern";
import { sayEvent } from "#core/marks/sayEvent";
import { patternsWaiting } from "#core/written/ready/patternGround";
import { PatternDetector } from "#core/patterns/detector";
import { slice, type Series } from "#core/series/series";
import { run, Track } from "#core/series/track";
import { contextOf, day, market, mark } from "#core/testing/marks";
import { days, sp500 } from "#core/testing/openData";

/** Bars whose closes run straight from turn to turn, each turn the extreme of its bar. */
function path(...turns: [bar: number, price: number][]): Series {
  const bars: [number, number, number, number][] = [];
  turns.forEach(([bar, price], n) => {
    const [from, at] = n === 0 ? [bar - 1, price] : turns[n - 1];
    for (let i = from + 1; i <= bar; i++) {
      const close = at + ((price - at) * (i - from)) / (bar - from);
      bars.push([close, close + 0.25, close - 0.25, close]);
    }
  });
  turns.forEach(([bar, price], n) => {
    const before = turns[n - 1]?.[1] ?? turns[1][1];
    const [open, high, low, close] = bars[bar];
    bars[bar] = price > before ? [open, price, low, close - 0.25] : [open, high, price, close + 0.25];
  });
  return days(...bars);
}

const TURNS: [number, number][] = [
  [0, 110],
  [10, 100],
  [16, 104],
  [24, 100.2],
];
const bars = (...rest: [number, number][]) => path(...TURNS, ...rest);
const placed = (props: Partial<PatternProps> = {}) => mark("pattern", TURNS, props) as unknown as Mark<PatternProps>;
const lived = (series: Series, one = placed()) =>
  followMark(one as unknown as Mark, contextOf(series)) as ReturnType<typeof followMark> & { state: PatternState };
const say = (series: Series, one = placed()) => pattern.say(one, lived(series, one), market);

describe("a pattern placed by hand", () => {
  it("is read as what its turns keep the rules of, and names what they break", () => {
    const series = bars([27, 102]);
    const read = pattern.complete!(placed({ pattern: "cup", way: "down" }), contextOf(series));
    expect(read.props).toEqual({ pattern: "doubleBottom", way: "up" });
    expect(pattern.check(read, contextOf(series))).toEqual([]);
    expect(
      pattern
        .check({ ...read, props: { pattern: "cup", way: "up" } }, contextOf(series))
        .map(({ sentence }) => sentence),
    ).toContain("Cup with handle: rims apart, share of the depth 0.6, must be at most 0.15.");
  });
  it("turns of one bar are no pattern, and say so", () => {
    const one = mark("pattern", [
      [1, 104],
      [1, 96],
      [2, 104],
      [3, 97],
    ] as [number, number][]) as unknown as Mark<PatternProps>;
    expect(pattern.check(one, contextOf(bars()))).toEqual([
      { sentence: "Each anchor stands on a later bar than the one before.", anchor: 1 },
    ]);
    expect(lived(bars([27, 102]), one).dead).toBe(true);
  });
  it("waits, is confirmed by a close, retested, met", () => {
    expect(say(bars([27, 102]))).toBe(
      "Double bottom: waits for a close above 104.00; a close below 100.00 negates it.",
    );
    const broke = bars([29, 105]);
    expect(lived(broke)).toMatchObject({ code: "confirmed", dead: false });
    expect(say(broke)).toBe("Double bottom: confirmed up at 104.00, target 108.00, stop 100.00.");
    const met = lived(bars([29, 105], [31, 103.8], [36, 109]));
    expect(met.code).toBe("met");
    expect(met.events.map((event) => sayEvent(placed() as unknown as Mark, event))).toEqual([
      "Confirmed: closed above 104, target 108.",
      "Retested and held.",
      "100.0 % met, 108.",
    ]);
    expect(lived(bars([29, 105], [31, 103.8])).code).toBe("retested");
  });
  it("fails beyond its stop, is negated before it was confirmed and by time", () => {
    const failed = lived(bars([29, 105], [34, 99]));
    expect(failed.events.map((event) => sayEvent(placed() as unknown as Mark, event)).at(-1)).toBe(
      "Failed: closed beyond its stop, 100.",
    );
    expect(say(bars([28, 99]))).toBe("Double bottom: negated before it was confirmed.");
    const late = bars(...Array.from({ length: 16 }, (_, n): [number, number] => [27 + 2 * n, n % 2 ? 101.5 : 102]));
    expect(say(late)).toBe("Double bottom: negated by time, nothing confirmed it.");
  });
  it("offers its lines while it waits, and its target once it is left", () => {
    const roles = (series: Series) =>
      pattern.prices(placed(), lived(series)).map(({ role, bottom }) => `${role} ${bottom}`);
    expect(roles(bars([27, 102]))).toEqual(["resistance 104", "support 100"]);
    expect(roles(bars([29, 105]))).toEqual(["support 104", "target 108", "kill 100"]);
    expect(pattern.lines!(placed(), lived(bars([29, 105])))).toEqual([
      { name: "100 %", price: 108, state: "in force" },
    ]);
    expect(pattern.lines!(placed(), lived(bars([27, 102])))).toEqual([]);
    // Its stop is where it is wrong: no area.
    const broke = [{ mark: placed() as unknown as Mark, life: lived(bars([29, 105])) }];
    expect(bandsOfMarks(broke, () => 1).map(({ bottom }) => bottom)).toEqual([104, 108]);
  });
});

it("is offered to a scenario while it waits, with the prices each way out is wrong beyond", () => {
  const series = bars([27, 102]);
  const one = { mark: placed() as unknown as Mark, life: lived(series) };
  expect(patternsWaiting([one], "P1D", 102)).toEqual([
    { name: "doubleBottom", title: "Double bottom", ways: ["up"], wrong: { up: 100, down: 104 } },
  ]);
  const broke = { mark: one.mark, life: lived(bars([29, 105])) };
  const hidden = { ...one, mark: { ...one.mark, hidden: true } };
  expect(patternsWaiting([broke, hidden], "P1D", 102)).toEqual([]);
  expect(patternsWaiting([one], "PT4H", 102)).toEqual([]);
});

// Open data: S&P 500, carried by vega-datasets (npm).
it("what the machine finds lives on as a mark just as the machine follows it", () => {
  const series = slice(sp500(), 0, 2_500);
  const track = new Track(series, 0.01);
  const detector = new PatternDetector(track);
  run(track, [detector]);
  let compared = 0;
  for (const { name, sign, turns, knownAt, life } of detector.found) {
    if (knownAt < 400) continue;
    const one: Mark<PatternProps> = {
      ...placed(),
      anchors: turns.map(({ time, price }) => ({ time, price })),
      props: { pattern: name, way: sign > 0 ? "up" : "down" },
    };
    const state = lived(series, one).state;
    // The mark begins at its last turn, the machine when that is known: what happens between is the mark's alone.
    if (state.life.confirmedAt !== undefined && state.life.confirmedAt < knownAt) continue;
    if (state.life.endedAt !== undefined && state.life.endedAt < knownAt) continue;
    expect(
      state.rules.filter(
        ({ holds, value, least, most }) => !holds && Math.min(Math.abs(value - least), Math.abs(value - most)) > 0.02,
      ),
    ).toEqual([]);
    expect({ ...state.life }).toEqual(life);
    compared++;
  }
  expect(compared).toBeGreaterThan(60);
});

it("is dated by its turns", () => expect(placed().anchors[0].time).toBe(day(0)));
