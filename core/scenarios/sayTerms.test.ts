import { describe, expect, it } from "vitest";
import { asInstant } from "#core/observe/instant";
import { watch } from "#core/observe/watcher";
import { momentsOf } from "#core/scenarios/follow";
import { readWholeTerms } from "#core/scenarios/readLegs";
import { scenarioWatcher, type ScenarioState } from "#core/scenarios/run";
import { sayStanding, sayTerms, sayWrong, wrongText } from "#core/scenarios/sayTerms";
import { readScenarioTerms } from "#core/scenarios/terms";
import { allHours, layer, rows } from "#core/testing/told";

const market = { decimals: 2 };
const day = (instant: number) => new Date(instant).toISOString().slice(0, 10);
const say = (scenario: object) => sayTerms(readWholeTerms(scenario, Number), market, day);
const HOUR = 3_600_000;

const whole = {
  direction: "long",
  while: [{ on: "close", side: "above", price: 96.5, rung: "P1D" }],
  if: [
    { when: { on: "touch", band: [97.2, 97.8] } },
    { when: { on: "sweep", side: "low", price: 97.1, rung: "PT1H" }, within: 12 },
  ],
  unless: [{ on: "time", from: "13:00", to: "14:00" }],
  entry: { order: "limit", price: { bind: "barHigh", step: 2 } },
  stop: { bind: "sweptExtreme", step: 2, ticks: -2 },
  targets: [
    { price: 98.6, share: 0.5 },
    { price: 99.8, share: 0.5 },
  ],
  breakEven: { after: "target" },
  wrong: 96.4,
  expires: Date.UTC(2026, 2, 9),
  leastReward: 1.5,
};

describe("a scenario read aloud", () => {
  it("is one paragraph in the order of its parts", () =>
    expect(say(whole)).toBe(
      "While a day candle closes above 96.50, if price touches 97.20 to 97.80, then within 12 bars price sweeps the " +
        "low 97.10 and a 1 h candle closes back, buy at the high of its bar (step 2) by limit. " +
        "Stop 2 ticks below the extreme of the sweep (step 2), to the entry after the first target. " +
        "Take half at 98.60, the rest at 99.80. Not if it is between 13:00 and 14:00. Not for less than 1.5 R. " +
        "Wrong below 96.40. Lapses on 2026-03-09.",
    ));
  it("is wrong at a price, or by the step it comes with", () => {
    expect(wrongText({ direction: "short" }, 96.4, market)).toBe("above 96.40");
    const swept = { bind: "sweptExtreme", step: 2, ticks: -2 } as const;
    expect(wrongText({ direction: "long" }, swept, market)).toBe(
      "below 2 ticks below the extreme of the sweep (step 2)",
    );
  });
  it("is wrong at the price a step has made known, in words before that, of legs by the first that knows", () => {
    const terms = readWholeTerms({ ...whole, wrong: { bind: "sweptExtreme", step: 2, ticks: -2 } }, Number);
    const words = "below 2 ticks below the extreme of the sweep (step 2)";
    const state = { phase: "armed", steps: { met: [] } } as unknown as ScenarioState;
    const known = { ...state, bound: { wrong: { price: 96.88, knownAt: asInstant(0) } } };
    expect(sayWrong(terms, state, market)).toBe(words);
    expect(sayWrong(terms, known, market)).toBe("below 96.88");
    expect(sayWrong({ ...terms, wrong: 96.4 }, known, market)).toBe("below 96.40");
    expect(sayWrong({ ...terms, wrong: undefined }, known, market)).toBeUndefined();
    const leg = { since: asInstant(0), state: known };
    expect(sayWrong(terms, { legs: [{ waits: true }, leg] }, market)).toBe("below 96.88");
    expect(sayWrong(terms, { legs: [{ over: true }] }, market)).toBe(words);
  });
  it("of a short sells, counts its ticks upwards and is wrong above", () => {
    const short = { ...whole, direction: "short", while: [], unless: [], breakEven: { r: 1 }, leastReward: undefined };
    expect(say(short)).toMatch(/sell at .*Stop 2 ticks above .*to the entry once it is 1 R up.*Wrong above 96\.40/);
  });
  it("without steps says its order at once, with a line what it runs through", () => {
    const line = { line: [HOUR, 2 * HOUR].map((time, i) => ({ time, price: 95 + i })), rung: "P1D" };
    const text = say({ ...whole, while: [], if: [], unless: [], entry: { order: "stop", price: line }, stop: 95 });
    expect(text).toMatch(/^Buy at the day line through 95\.00 and 96\.00 by stop\. Stop 95\.00/);
  });
  it("of several legs says each with its share of the risk and what it waits for", () => {
    const { entry: _e, stop: _s, targets: _t, breakEven: _b, ...common } = whole;
    const leg = { entry: { order: "market" }, stop: 96, targets: [{ price: 99, share: 1 }], risk: 0.5 };
    const text = say({ ...common, legs: [leg, { ...leg, after: { leg: 1, event: "entered" } }] });
    expect(text).toMatch(/Leg 1, 50 % of the risk: buy the next open\. Stop 96\.00\. Take all at 99\.00\./);
    expect(text).toMatch(/Leg 2, 50 % of the risk, after leg 1 is entered: buy the next open\./);
  });
});

describe("where a scenario stands", () => {
  const terms = readScenarioTerms({ ...whole, while: [], unless: [], leastReward: undefined }, Number);
  const facts = { since: asInstant(0), tick: 0.01, zone: "UTC" };
  type Bar = [number, number, number, number];
  const after = (...bars: Bar[]) => sayStanding(terms, stateAfter(...bars), market);
  const stateAfter = (...bars: Bar[]) => {
    const watcher = scenarioWatcher(terms, facts);
    const series = rows(...bars.map((bar, i) => [i * HOUR, ...bar] as never));
    const told = { layers: [layer("PT1H", series)], calendar: allHours, k: 1 };
    return watch(watcher, watcher.start, momentsOf(told, facts.tick, watcher.needs)).state;
  };
  it("tells the steps that are met, what is waited for and what would end it", () => {
    expect(after([98, 98.2, 97.9, 98])).toBe(
      "0 of 2 steps, waiting until price touches 97.20 to 97.80; dies below 96.40",
    );
    expect(sayStanding(terms, stateAfter([98, 98.2, 97.9, 98]), market, false)).toBe(
      "0 of 2 steps, waiting until price touches 97.20 to 97.80",
    );
    expect(after([98, 98.2, 97.5, 98])).toBe(
      "1 of 2 steps, waiting until price sweeps the low 97.10 and a 1 h candle closes back; dies below 96.40",
    );
  });
  it("tells bound prices as the numbers they are", () => {
    const swept: [number, number, number, number][] = [
      [98, 98.2, 97.5, 98],
      [98, 98.1, 96.9, 97.6],
    ];
    expect(after(...swept)).toBe("triggered, the order rests at 98.10; dies below 96.40");
    expect(after(...swept, [97.6, 98.2, 97.5, 98.15])).toBe("open, stop 96.88");
    expect(after(...swept, [97.6, 97.7, 96.3, 96.35])).toBe("over");
  });
});
