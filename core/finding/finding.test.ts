import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { distanceTo } from "#core/areas/areas";
import { findingsOf } from "#core/finding/findings";
import type { Found } from "#core/finding/found";
import { mergeFindings } from "#core/finding/merge";
import { FINDING_DEFAULTS, FINDING_PARAMS, readFindingParams } from "#core/finding/params";
import { RungReader } from "#core/finding/reader";
import { resample } from "#core/series/resample";
import { barAt, slice, type Series } from "#core/series/series";
import { sp500, walk } from "#core/testing/openData";
import { later, turned } from "#core/testing/mirror";
import { ALL_HOURS, Calendar } from "#core/time/calendar";
import { DAY } from "#core/time/dates";
import type { Timeframe } from "#core/time/timeframe";

const calendar = new Calendar(ALL_HOURS);
const day: Timeframe = { count: 1, unit: "day" };
const params = { ...FINDING_DEFAULTS, k: 2, rangeBars: 5, touches: 2, equal: 0.2 };
const read = (series: Series, timeframe = day) => new RungReader(series, timeframe, calendar, 0.25, params);
/** Legs and quiet stretches in turn, so that there is something to find. */
const steps = fc.array(
  fc.tuple(fc.integer({ min: -8, max: 8 }), fc.integer({ min: 0, max: 3 }), fc.integer({ min: 0, max: 3 })),
  { minLength: 20, maxLength: 160 },
);

/** Everything that was found by bar `until`, as it was known then. */
const births = (
  { structure, bases, orderBlocks, ranges, gaps, openingGaps, equal, track }: RungReader,
  until: number,
) => ({
  structure: structure.events.filter(({ at }) => at < until),
  zones: bases.found
    .filter(({ knownAt }) => knownAt < until)
    .map(({ kind, from, to, bottom, top, life }) => [
      kind,
      from,
      to,
      bottom,
      top,
      life.events.filter(({ time }) => until > 0 && time <= track.time[until - 1]),
    ]),
  blocks: orderBlocks.found
    .filter(({ knownAt }) => knownAt < until)
    .map(({ from, bottom, top, knownAt }) => [from, bottom, top, knownAt]),
  ranges: ranges.found
    .filter(({ knownAt }) => knownAt < until)
    .map(({ from, bottom, top, knownAt, left }) => [
      from,
      bottom,
      top,
      knownAt,
      left && left.at < until ? [left.way, left.as] : undefined,
    ]),
  gaps: gaps.found
    .filter(({ at }) => at < until)
    .map(({ at, bottom, top, firstTouch = until, filledAt = until }) => [
      at,
      bottom,
      top,
      Math.min(until, firstTouch),
      Math.min(until, filledAt),
    ]),
  opening: openingGaps.found.filter(({ at }) => at < until).map(({ at, bottom, top }) => [at, bottom, top]),
  equal: equal.found
    .filter(({ knownAt }) => knownAt < until)
    .map(({ side, price, knownAt, sweptAt = until }) => [side, price, knownAt, Math.min(until, sweptAt)]),
  rows: equal.rows.filter(({ knownAt }) => knownAt < until).map(({ side, price, knownAt }) => [side, price, knownAt]),
});

describe("what is found on a rung", () => {
  it("as of a bar is what the bars up to it give, in every detector", () => {
    fc.assert(
      fc.property(steps, fc.nat(160), (drawn, at) => {
        const until = Math.min(at, drawn.length);
        expect(births(read(walk(drawn)), until)).toEqual(births(read(walk(drawn.slice(0, until))), until));
      }),
      { numRuns: 60 },
    );
  });
  it("bar after bar is what the whole run finds", () => {
    fc.assert(
      fc.property(steps, fc.nat(160), (drawn, at) => {
        const series = walk(drawn);
        const from = Math.min(at, series.length);
        const grown = read(slice(series, 0, from));
        for (let i = from; i < series.length; i++) grown.push(barAt(series, i));
        expect(findingsOf(grown)).toEqual(findingsOf(read(series)));
      }),
      { numRuns: 40 },
    );
  });
  it("turned upside down, demand and supply, up and down change places", () => {
    const flip = {
      demand: "supply",
      supply: "demand",
      up: "down",
      down: "up",
      high: "low",
      low: "high",
      shift: "shift",
    } as Record<string, string>;
    const facts = (reader: RungReader, turn: (price: number) => number, words: (word: string) => string) => ({
      zones: reader.bases.found.map(({ side, from, to, bottom, top, knownAt, life }) => [
        words(side),
        from,
        to,
        Math.min(turn(bottom), turn(top)),
        knownAt,
        life.state.status,
        life.state.touches,
      ]),
      blocks: reader.orderBlocks.found.map(({ side, from, knownAt, life }) => [
        words(side),
        from,
        knownAt,
        life.state.status,
      ]),
      events: reader.structure.events
        .map(({ event, direction, at, price }) => [event, words(direction), at, turn(price)])
        .sort(),
      ranges: reader.ranges.found.map(({ from, to, left }) => [from, to, left && words(left.way)]),
      equal: reader.equal.found.map(({ side, price, state }) => [words(side), turn(price), state]).sort(),
    });
    fc.assert(
      fc.property(steps, (drawn) => {
        const series = walk(drawn, 400);
        const mirror = (price: number) => 1000 - price;
        expect(facts(read(turned(series, mirror)), mirror, (word) => flip[word])).toEqual(
          facts(
            read(series),
            (price) => price,
            (word) => word,
          ),
        );
      }),
      { numRuns: 60 },
    );
  });
  it("does not depend on the unit of price nor on when it happened", () => {
    fc.assert(
      fc.property(steps, (drawn) => {
        const series = walk(drawn);
        const sizes = (reader: RungReader, unit: number) =>
          reader.bases.found.map(({ from, to, kind, bottom, top }) => [from, to, kind, bottom / unit, top / unit]);
        const plain = read(series);
        expect(
          sizes(
            new RungReader(
              turned(series, (price) => price * 8),
              day,
              calendar,
              2,
              params,
            ),
            8,
          ),
        ).toEqual(sizes(plain, 1));
        expect(births(read(later(series, 28 * DAY)), 160).structure).toEqual(births(plain, 160).structure);
      }),
      { numRuns: 40 },
    );
  });
});

describe("findings", () => {
  const days = sp500();
  const weeks = resample(days, day, { count: 1, unit: "week" }, calendar);
  const byRung = [findingsOf(read(weeks, { count: 1, unit: "week" })), findingsOf(read(days))];
  it("come nearest to price first, each with what was seen of it, and known before the last bar closed", () => {
    for (const list of byRung) {
      expect(list.length).toBeGreaterThan(10);
      const away = list.map((one) => Math.abs(distanceTo(one, days.close[days.length - 1])));
      expect(away).toEqual([...away].sort((a, b) => a - b));
      for (const { why, freshness, top, bottom, knownAt, sources, step } of list) {
        expect(freshness).toBeGreaterThanOrEqual(0);
        expect(freshness).toBeLessThanOrEqual(1);
        if (step === "zones") expect(why.length).toBeGreaterThan(0);
        expect(top).toBeGreaterThanOrEqual(bottom);
        expect(knownAt).toBeLessThanOrEqual(days.time[days.length - 1]);
        expect(sources.length).toBeGreaterThan(0);
      }
    }
    expect(new Set(byRung.flat().map(({ key }) => key)).size).toBe(byRung.flat().length);
  });
  it("one fact on two rungs is one, with its lineage; every finding is in exactly one", () => {
    const facts = mergeFindings(byRung, 0.25, days.close[days.length - 1]);
    expect(facts.length).toBeLessThan(byRung.flat().length);
    expect(facts.flatMap(({ lineage }) => lineage)).toHaveLength(byRung.flat().length);
    const both = facts.find(({ lineage }) => new Set(lineage.map(({ rung }) => rung)).size > 1);
    expect(both?.rung).toBe("P1W");
  });
  it("a zone that meets one of a longer rung says whether that is of its own side", () => {
    const zone = (rung: string, side: string, bottom: number, at: number): Found => ({
      key: `${rung} ${side}`,
      step: "zones",
      kind: "zone",
      anchors: [],
      props: { side, of: "base" },
      name: side,
      rung,
      knownAt: 0,
      bottom,
      top: bottom + 2,
      role: "support",
      state: "fresh",
      freshness: 1,
      why: ["left at 2.0 ATR"],
      sources: [{ from: at, to: at + 1 }],
      lineage: [{ rung, name: side }],
      alsoKeys: [],
    });
    const whyBeside = (side: string, bottom: number) =>
      mergeFindings([[zone("P1W", side, bottom, 0)], [zone("P1D", "demand", 100, 5)]], 0.25, 100).find(
        ({ rung }) => rung === "P1D",
      )?.why;
    expect(whyBeside("demand", 101)).toEqual(["left at 2.0 ATR", "a longer rung agrees"]);
    expect(whyBeside("supply", 101)).toEqual(["left at 2.0 ATR", "against a zone of a longer rung"]);
    expect(whyBeside("demand", 103)).toEqual(["left at 2.0 ATR"]);
  });
  it("of no bars are none, and of one closed day its own extremes and round numbers", () => {
    expect(findingsOf(read(walk([])))).toEqual([]);
    expect(
      findingsOf(read(walk([[1, 1, 1]])))
        .filter(({ name }) => name !== "Round number")
        .map(({ name, state }) => `${name}, ${state}`)
        .sort(),
    ).toEqual(["Previous day's high, untouched", "Previous day's low, untouched"]);
  });
  it("the day before is the last one that closed; the week before is not the one that runs", () => {
    // 1 January 2024 is a Monday: ten days are a week and three days of the next.
    const names = findingsOf(
      read(walk(Array.from({ length: 10 }, (_, i): [number, number, number] => [i % 2 === 0 ? 3 : -2, 1, 1]))),
    ).map(({ name, anchors }) => `${name} ${new Date(anchors[0].time).toISOString().slice(0, 10)}`);
    expect(names).toContain("Previous day's low, inside day 2024-01-10");
    expect(
      names.filter((name) => name.startsWith("Previous week")).every((name) => name.slice(-10) <= "2024-01-07"),
    ).toBe(true);
  });
});

describe("parameters of what is looked for", () => {
  it("stand at their defaults where nothing is said", () => expect(readFindingParams({})).toEqual(FINDING_DEFAULTS));
  it.each(FINDING_PARAMS.map(({ name, least, most }) => [name, least, most] as const))(
    "%s beyond its bounds is refused",
    (name, least, most) => {
      expect(readFindingParams({ [name]: least - 1 })).toMatch(/number from/);
      expect(readFindingParams({ [name]: most + 1 })).toMatch(/number from/);
      expect(readFindingParams({ [name]: "5" })).toMatch(/number from/);
      expect(readFindingParams({ [name]: most })).toMatchObject({ [name]: most });
    },
  );
  it("that are no object are refused", () => expect(readFindingParams([1])).toMatch(/cannot be read/));
});
