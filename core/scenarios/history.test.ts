import { describe, expect, it } from "vitest";
import { asInstant, EVER, NEVER } from "#core/observe/instant";
import { followTerms, type Told } from "#core/scenarios/follow";
import { scenarioHistory, type HistoryAsk } from "#core/scenarios/history";
import { readScenarioTerms } from "#core/scenarios/terms";
import { barAt, fromBars } from "#core/series/series";
import { drawsOf } from "#core/statistics/intervals";
import { sp500 } from "#core/testing/openData";
import { allHours, layer } from "#core/testing/told";
import { DAY } from "#core/time/dates";

const series = sp500();
const told: Told = { layers: [layer("P1D", series)], calendar: allHours, k: 3 };
const facts = { tick: 0.01, zone: "UTC" };
const ask: HistoryAsk = { from: EVER, to: NEVER, life: 90 * DAY, seed: 11, draws: 400 };

/** Buy a shift of structure up at the next open, stop below where it came from, twice the risk away. */
const shiftUp = readScenarioTerms(
  {
    direction: "long",
    if: [{ when: { on: "shift", direction: "up", rung: "P1D" } }],
    entry: { order: "stop", price: { bind: "barHigh", step: 1, ticks: 1 } },
    stop: { bind: "swing", step: 1, ticks: -1 },
    targets: [{ price: { bind: "midOfLeg", step: 1, ratio: -1 }, share: 1 }],
    wrong: { bind: "swing", step: 1, ticks: -1 },
    expires: 8e15,
  },
  Number,
);

describe("a rule over the past", () => {
  const history = scenarioHistory(shiftUp, facts, told, ask);
  it("finds what following it from each beginning finds, instance by instance (S&P 500, vega-datasets)", () => {
    const instances = history?.instances ?? [];
    expect(instances.length).toBeGreaterThan(20);
    for (const { since, events, bound, result } of instances) {
      const terms = { ...shiftUp, expires: asInstant(since + 90 * DAY) };
      const again = followTerms(terms, { ...facts, since }, told);
      expect(again).toEqual({ events, bound, result });
    }
    // No two overlap.
    instances
      .slice(1)
      .forEach(({ since }, i) => expect(since).toBeGreaterThanOrEqual(instances[i].events.at(-1)!.knownAt));
  });
  it("its figures are those of its instances, and add up", () => {
    const { instances = [], summary } = history ?? {};
    const entered = instances.filter(({ events }) => events.some(({ event }) => event === "entered"));
    const results = entered.filter(({ result }) => result.state === "done").map(({ result: { r } }) => r);
    expect(summary?.n).toBe(results.length);
    const { n = 0, open = 0, notEntered = 0, tooNear = 0 } = summary ?? {};
    expect(n + open + notEntered + tooNear).toBe(instances.length);
    expect(summary?.expectancy).toBeCloseTo(results.reduce((sum, r) => sum + r, 0) / results.length, 9);
    expect(summary?.hitRate).toBe(results.filter((r) => r > 0).length / results.length);
    expect(summary?.years.reduce((sum, { n }) => sum + n, 0)).toBe(results.length);
    const [low, high] = summary?.expectancyInterval ?? [NaN, NaN];
    expect(low).toBeLessThan(summary?.expectancy ?? NaN);
    expect(high).toBeGreaterThan(summary?.expectancy ?? NaN);
  });
  it("is the same for the same seed; with another only what is drawn differs", () => {
    expect(scenarioHistory(shiftUp, facts, told, ask)).toEqual(history);
    const other = scenarioHistory(shiftUp, facts, told, { ...ask, seed: 12 });
    expect(other?.instances).toEqual(history?.instances);
    expect(other?.chance).not.toEqual(history?.chance);
  });
  it("cut later it finds the same before", () => {
    const half = Math.floor(series.length / 2);
    const cut = fromBars(Array.from({ length: half }, (_, i) => barAt(series, i)));
    const before = scenarioHistory(shiftUp, facts, { ...told, layers: [layer("P1D", cut)] }, ask);
    const ended = before?.instances.filter(({ result }) => result.state === "done") ?? [];
    expect(ended.length).toBeGreaterThan(8);
    expect(history?.instances.slice(0, ended.length)).toEqual(ended);
  });
  /** A price that goes up or down by one at even odds: what is aimed at pays for what is risked, and no more. */
  const fair = (bars: number) => {
    const draw = drawsOf(5);
    let price = 20_000;
    return fromBars(
      Array.from({ length: bars }, (_, i) => {
        const open = price;
        price += draw(2) === 0 ? 1 : -1;
        const [high, low] = [Math.max(open, price), Math.min(open, price)];
        return { time: i * DAY, open, high, low, close: price, volume: 1 };
      }),
    );
  };
  it("of a price that goes by chance alone, entries at random times come to nothing", () => {
    const found = scenarioHistory(
      shiftUp,
      { ...facts, tick: 1 },
      { ...told, layers: [layer("P1D", fair(6_000))] },
      {
        ...ask,
        draws: 800,
      },
    );
    const { expectancy = NaN, n = 0 } = found?.chance ?? {};
    expect(n).toBeGreaterThan(600);
    // Entries overlap on one path: about twenty of them are independent, and 0.5 is two of their standard errors.
    expect(Math.abs(expectancy)).toBeLessThan(0.5);
  });
  it("leaves out what was stopped nearer than four ticks, and tells how many", () => {
    // On a grid as coarse as a usual day some stops lie within four ticks.
    const coarse = scenarioHistory(shiftUp, { ...facts, tick: 20 }, told, ask);
    const { summary, instances = [] } = coarse ?? {};
    const near = instances.filter(({ risk }) => risk !== undefined && risk < 80 - 1e-6);
    expect(near.length).toBeGreaterThan(1);
    expect(summary?.tooNear).toBe(near.length);
    expect(history?.summary.tooNear).toBe(0);
  });
  it("draws until the seed hardly shows: means of two seeds differ by less than a fifth of the rule's interval", () => {
    const seeds = [3, 4, 5].map((seed) => scenarioHistory(shiftUp, facts, told, { ...ask, draws: 100, seed })!);
    for (const { summary, chance } of seeds) {
      const [low, high] = summary.expectancyInterval!;
      const wanted = 0.1 * ((high - low) / 2);
      // Known to that, or drawn as often as may be.
      expect(chance.drawnError! <= wanted || chance.n > 900).toBe(true);
      expect(chance.n).toBeGreaterThanOrEqual(95);
    }
    const means = seeds.map(({ chance }) => chance.expectancy!);
    const error = Math.max(...seeds.map(({ chance }) => chance.drawnError!));
    // Two draws differ by four of their standard errors about once in two hundred times.
    expect(Math.max(...means) - Math.min(...means)).toBeLessThan(4 * error * Math.SQRT2);
  });
  it("random entries of a rule whose stop follows structure have theirs follow it, too", () => {
    const far = { price: { bind: "midOfLeg" as const, step: 1, ratio: -40 }, share: 1 };
    const trailing = { ...shiftUp, targets: [far], trail: { by: "structure" as const, rung: "P1D" } };
    const { summary, chance } = scenarioHistory(trailing, facts, told, ask)!;
    const trailed = (list: readonly { events: readonly { event: string }[] }[]) =>
      list.filter(({ events }) => events.some(({ event }) => event === "trailed")).length;
    expect(summary.n).toBeGreaterThan(10);
    // A stop that never moves would lose one R each time: some of what was drawn made something.
    expect(chance.hitRate).toBeGreaterThan(0.05);
    expect(trailed(scenarioHistory(trailing, facts, told, ask)!.instances)).toBeGreaterThan(5);
  });
  it("tells how far it is, and is stopped when nobody wants it any more", () => {
    const long: Told = { ...told, layers: [layer("P1D", fair(41_000))] };
    const shares: number[] = [];
    const within = { ...ask, from: asInstant(0), to: asInstant(41_000 * DAY), draws: 1 };
    const run = (goesOn: boolean) =>
      scenarioHistory(shiftUp, facts, long, { ...within, onProgress: (share) => (shares.push(share), goesOn) });
    expect(run(true)?.instances.length).toBeGreaterThan(100);
    // Looking for it is the larger part; then entries are drawn.
    expect(shares).toHaveLength(101);
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    expect(shares[0]).toBeCloseTo(0.006, 4);
    expect(shares.at(-1)).toBe(0.6);
    expect(run(false)).toBeUndefined();
    expect(shares).toHaveLength(102);
  });
  it("tells it of a short past as well", () => {
    const shares: number[] = [];
    const within = { ...ask, from: asInstant(0), to: asInstant(300 * DAY), draws: 1 };
    const short: Told = { ...told, layers: [layer("P1D", fair(300))] };
    scenarioHistory(shiftUp, facts, short, { ...within, onProgress: (share) => (shares.push(share), true) });
    expect(shares.length).toBeGreaterThan(90);
  });
});
