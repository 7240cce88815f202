import { describe, expect, it } from "vitest";
import { findingsOf } from "#core/finding/findings";
import { markOf } from "#core/finding/answer";
import { FINDING_DEFAULTS } from "#core/finding/params";
import { RungReader } from "#core/finding/reader";
import { readingOf } from "#core/finding/reading";
import { slice, type Series } from "#core/series/series";
import { resample } from "#core/series/resample";
import { calendar, live, mark, market } from "#core/testing/marks";
import { days, sp500 } from "#core/testing/openData";
import { checkWritten } from "#core/written/check";
import { guardOffers, stepOffers } from "#core/written/offers";
import { outlineOf } from "#core/written/outline";
import { READY, type Filled } from "#core/written/ready";
import type { ReadyGround } from "#core/written/ready/ground";
import { termsOfWritten } from "#core/written/read";
import { subjectsOf } from "#core/written/subject";
import { emptyWritten, type Written } from "#core/written/written";

const DAILY = { count: 1, unit: "day" } as const;
const WEEKLY = { count: 1, unit: "week" } as const;

/** What an index's days say up to a bar, as the desk would have it there: findings taken over as marks. */
function groundAt(series: Series, end: number): ReadyGround {
  const seen = slice(series, Math.max(0, end - 400), end);
  const reader = new RungReader(seen, DAILY, calendar, market.tick, FINDING_DEFAULTS);
  const { close, atr, labels, legs } = readingOf(reader);
  const marks = findingsOf(reader)
    .filter(({ step }) => step !== "structure")
    .slice(0, 12)
    .map((found, i) => markOf(found, market.id, String(i)));
  const lived = marks.map((one) => ({ mark: one, life: live(one, seen) }));
  const weeks = resample(seen, DAILY, WEEKLY, calendar);
  const week = (i: number) => ({ bottom: weeks.low[i], top: weeks.high[i] });
  return {
    close,
    atr,
    tick: market.tick,
    rung: "P1D",
    finer: "PT4H",
    subjects: subjectsOf(lived, [], close, market),
    labels,
    legs,
    weeks: [week(weeks.length - 3), week(weeks.length - 2)],
    counts: [],
  };
}

function written({ title, terms }: Filled): Written {
  const empty = emptyWritten("00000000-0000-4000-8000-000000000003", Date.UTC(2030, 0, 1));
  return { ...empty, title: title.slice(0, 80), terms: { ...terms, expires: empty.terms.expires } };
}
const faultsOf = (one: Written) =>
  checkWritten(one, { market, now: Date.UTC(2020, 0, 1) }).filter(({ severity }) => severity === "fault");

describe("ready-made sentences over eleven years of an index (S&P 500, vega-datasets)", () => {
  const series = sp500();
  const ends = Array.from({ length: 60 }, (_, i) => 420 + i * 38).filter((end) => end < series.length);
  const filled = new Map<string, number>();
  it("what they fill from what the rung shows can be followed, with every price on its side", () => {
    for (const end of ends) {
      const ground = groundAt(series, end);
      for (const { name, fill } of READY) {
        const made = fill(ground);
        if (typeof made === "string") {
          expect(made, name).toMatch(/^[A-Z].*\.$/);
          continue;
        }
        filled.set(name, (filled.get(name) ?? 0) + 1);
        const one = written(made);
        expect(faultsOf(one), `${name} at ${end}: ${JSON.stringify(one.terms)}`).toEqual([]);
        const { direction, prices } = outlineOf(termsOfWritten(one));
        const sign = direction === "long" ? 1 : -1;
        const of = (what: string) => prices.filter((price) => price.what === what).map(({ price }) => price);
        for (const target of of("target"))
          for (const stop of of("stop")) expect(sign * (target - stop)).toBeGreaterThan(0);
      }
    }
  });
  it("most of them find what they need on most days; a wave needs a count, which nobody labelled here", () => {
    for (const name of ["secondTouch", "sweepAndShift", "retest", "rangeReturn", "yesterdaySwept"])
      expect(filled.get(name) ?? 0, name).toBeGreaterThan(ends.length / 2);
    for (const name of ["flag", "insideWeek", "equalsRun"]) expect(filled.get(name) ?? 0, name).toBeGreaterThan(0);
    expect(filled.get("waveEnd")).toBeUndefined();
  });
});

describe("ready-made sentences on a market made by hand", () => {
  const nothing: ReadyGround = {
    ...{ close: 100, atr: 2, tick: 0.01, rung: "P1D", finer: "PT1H" },
    ...{ subjects: [], labels: [], legs: [], counts: [] },
  };
  const fill = (name: string, change: Partial<ReadyGround>) =>
    READY.find((one) => one.name === name)?.fill({ ...nothing, ...change }) as Filled;
  it("each says what is missing where there is nothing; the one that is all rule needs nothing", () => {
    for (const { name, fill: own } of READY)
      expect(typeof own(nothing) === "string", name).toBe(name !== "yesterdaySwept");
  });
  it("an inside week is a pair: either way out, the first to come ends the other", () => {
    const weeks = [
      { bottom: 95, top: 106 },
      { bottom: 98, top: 104 },
    ] as const;
    const { terms, other } = fill("insideWeek", { weeks });
    expect([terms.direction, other?.direction]).toEqual(["long", "short"]);
    expect(terms.unless).toEqual(other?.if.map(({ when }) => when));
    expect(other?.unless).toEqual(terms.if.map(({ when }) => when));
    expect(terms.orders[0]).toMatchObject({
      entry: { price: 104 },
      stop: 101,
      targets: [{ price: 107 }, { price: 110 }],
    });
    expect(typeof fill("insideWeek", { weeks: [weeks[1], weeks[0]] })).toBe("string");
  });
  it("a flag is left with its pole, as far again; one that gave back too much is none", () => {
    const legs = [
      { direction: "up" as const, bottom: 90, top: 110 },
      { direction: "down" as const, bottom: 102, top: 110 },
    ];
    const { terms } = fill("flag", { close: 104, legs });
    expect(terms).toMatchObject({ direction: "long", while: [{ side: "above", price: 102 }] });
    expect(terms.orders[0]).toMatchObject({ entry: { price: 110.01 }, targets: [{ price: 120 }, { price: 130 }] });
    expect(fill("flag", { close: 104, legs: [legs[0], { ...legs[1], bottom: 95 }] })).toMatch(/gave back too much/);
  });
  it("a pattern's break is waited for by name, stopped and aimed by what the pattern leaves", () => {
    const patterns = [
      { name: "doubleBottom", title: "Double bottom", ways: ["up"], wrong: { up: 98, down: 104 } },
    ] as const;
    const { title, terms, other } = fill("patternBreak", { patterns });
    expect(title).toBe("Out of the double bottom");
    expect(terms).toMatchObject({
      direction: "long",
      if: [{ when: { on: "pattern", pattern: "doubleBottom", way: "up", event: "confirmed", rung: "P1D" } }],
      wrong: 98,
    });
    expect(terms.orders[0]).toMatchObject({
      ...{ entry: { order: "market" }, stop: { bind: "patternStop", step: 1, ticks: -1 } },
      targets: [{ price: { bind: "patternTarget", step: 1 }, share: 1 }],
    });
    expect(other).toBeUndefined();
    const tested = fill("patternRetest", { patterns }).terms;
    expect(tested.if[1]).toMatchObject({ when: { on: "pattern", event: "retested" }, within: 20 });
    expect(faultsOf(written({ title, terms }))).toEqual([]);
    expect(faultsOf(written({ title, terms: tested }))).toEqual([]);
  });
  it("one that may be left either way is a pair", () => {
    const patterns = [
      { name: "rectangle", title: "Rectangle", ways: ["up", "down"], wrong: { up: 98, down: 104 } },
    ] as const;
    const { terms, other } = fill("patternBreak", { patterns });
    expect([terms.direction, other?.direction]).toEqual(["long", "short"]);
    expect([terms.wrong, other?.wrong]).toEqual([98, 104]);
    expect(terms.unless).toEqual(other?.if.map(({ when }) => when));
    expect(other?.unless).toEqual(terms.if.map(({ when }) => when));
  });
  it("the end of a wave rests on its count and waits for a shorter rung to shift", () => {
    const asks = {
      ...{ direction: "long" as const, title: "Minor wave 3", premise: "", order: "limit" as const },
      ...{ entry: 96, stop: 94, invalidation: 93.5, targets: [108, 112], path: [] },
    };
    const { terms, restsOn } = fill("waveEnd", { counts: [{ mark: "c", asks }] });
    expect(restsOn).toBe("c");
    expect(terms.if.map(({ when }) => when.on)).toEqual(["touch", "shift"]);
    expect(terms).toMatchObject({ wrong: 93.5, orders: [{ stop: 94, targets: [{ price: 108 }, { price: 112 }] }] });
  });
  it("a pool above is run and sold, one below bought", () => {
    const series = days([100, 101, 99, 100], [100, 102, 99, 101], [101, 103, 100, 102]);
    const pool = mark("pool", [[1, 110]], { side: "high" });
    const subjects = subjectsOf([{ mark: pool, life: live(pool, series) }], [], 102, market);
    const { terms } = fill("equalsRun", { subjects, close: 102 });
    expect(terms).toMatchObject({
      direction: "short",
      if: [{ when: { on: "sweep", side: "high" } }, { when: { on: "shift" } }],
    });
  });
});

describe("steps offered for what is on the chart", () => {
  const series = days([100, 101, 99, 100], [100, 102, 99, 101], [101, 103, 100, 102]);
  const zone = mark("zone", [[1, 101], [2, 99]], { side: "demand", own: true }); // prettier-ignore
  const [band] = subjectsOf([{ mark: zone, life: live(zone, series) }], [], 103, market);
  const level = mark("level", [[1, 105]]);
  const [price] = subjectsOf([{ mark: level, life: live(level, series) }], [], 103, market);
  const facts = { close: 103, rung: "P1D", finer: "PT1H" };
  it("of a band below: from touch to touch again, and a shift up inside", () => {
    const offers = stepOffers(band, facts);
    expect(offers.map(({ name, steps }) => `${name}: ${steps.map(({ when }) => when.on).join(", ")}`)).toEqual([
      "touch: touch",
      "touch, leave, touch again: touch, leave, touch",
      "shift on a lower rung inside: touch, shift",
      "sweep its far edge and return: sweep",
      "close beyond it: close",
      "turning candle there: touch, candle",
    ]);
    expect(offers[1].steps[1].when).toMatchObject({ side: "above", by: 2 });
    expect(offers[2].steps[1].when).toMatchObject({ direction: "up", rung: "PT1H" });
    expect(offers[3].steps[0].when).toMatchObject({ side: "low", price: { part: "bottom demand" } });
  });
  it("of a price above: swept as a high, broken upwards, held below", () => {
    const offers = stepOffers(price, facts);
    expect(offers.find(({ name }) => name === "sweep and return")?.steps[0].when).toMatchObject({ side: "high" });
    expect(offers.find(({ name }) => name === "close beyond")?.steps[0].when).toMatchObject({ side: "above" });
    expect(offers.find(({ name }) => /hold there/.test(name))?.steps[0].when).toMatchObject({ side: "below", bars: 3 });
    expect(guardOffers(price, facts)[0].condition).toMatchObject({ on: "close", side: "below" });
  });
  it("every offer can be followed", () => {
    for (const subject of [band, price])
      for (const { steps } of stepOffers(subject, facts)) {
        const empty = emptyWritten("00000000-0000-4000-8000-000000000004", Date.UTC(2030, 0, 1));
        const [order] = empty.terms.orders;
        const orders = [
          { ...order, entry: { order: "market" as const }, stop: 90, targets: [{ price: 120, share: 1 }] },
        ];
        expect(() => termsOfWritten({ terms: { ...empty.terms, if: steps, orders, wrong: 80 } })).not.toThrow();
      }
  });
});
