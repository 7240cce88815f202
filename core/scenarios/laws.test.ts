import { describe, expect, it } from "vitest";
import { isBound, isLine, isPrevious, type Price } from "#core/conditions/price";
import type { Terms } from "#core/conditions/registry";
import { asInstant } from "#core/observe/instant";
import { followTerms, type Followed } from "#core/scenarios/follow";
import type { SeveralTerms } from "#core/scenarios/legs";
import type { ScenarioTerms } from "#core/scenarios/terms";
import { turned } from "#core/testing/mirror";
import { layersOfCase, RandomScenarios, termsOfCase, type RandomCase } from "#core/testing/randomScenarios";
import { allHours } from "#core/testing/told";
import { MINUTE } from "#core/time/dates";

const cases = (seed: number, n: number): RandomCase[] => {
  const random = new RandomScenarios(seed);
  return Array.from({ length: n }, () => random.next());
};
const factsOf = ({ scenario }: RandomCase) => ({ since: asInstant(scenario.since * MINUTE), tick: 1, zone: "UTC" });
const toldOf = (one: RandomCase) => ({ layers: layersOfCase(one), calendar: allHours, k: 3 });

const MIDDLE = 100;
const flip = (price: number) => 2 * MIDDLE - price;
const OTHER = { above: "below", below: "above", high: "low", low: "high", up: "down", down: "up" } as const;

const BINDS = { barHigh: "barLow", barLow: "barHigh" } as const;

/** A price upside down: what is a high becomes a low, ticks are counted in the direction of the trade. */
function flippedPrice(price: Price): Price {
  if (typeof price === "number") return flip(price);
  if (isLine(price)) {
    const [a, b] = price.line.map((anchor) => ({ ...anchor, price: flip(anchor.price) }));
    return { ...price, line: [a, b] };
  }
  if (isPrevious(price)) return price.of === "close" ? price : { ...price, of: OTHER[price.of] };
  return isBound(price) ? { ...price, bind: BINDS[price.bind as keyof typeof BINDS] ?? price.bind } : price;
}

function flipped(terms: Terms): Terms {
  const { side, direction, price, band, of } = terms as unknown as Record<string, unknown>;
  return {
    ...terms,
    ...(side ? { side: OTHER[side as keyof typeof OTHER] } : {}),
    ...(direction ? { direction: OTHER[direction as keyof typeof OTHER] } : {}),
    ...(price === undefined ? {} : { price: flippedPrice(price as Price) }),
    ...(Array.isArray(band) ? { band: [flip(band[1] as number), flip(band[0] as number)] } : {}),
    ...(Array.isArray(of) ? { of: (of as Terms[]).map(flipped) } : {}),
  } as Terms;
}

function mirrored(terms: ScenarioTerms): ScenarioTerms {
  return {
    ...terms,
    direction: terms.direction === "long" ? "short" : "long",
    while: terms.while.map(flipped),
    unless: terms.unless.map(flipped),
    if: terms.if.map((step) => ({ ...step, when: flipped(step.when) })),
    entry: { ...terms.entry, ...(terms.entry.price === undefined ? {} : { price: flippedPrice(terms.entry.price) }) },
    stop: flippedPrice(terms.stop),
    targets: terms.targets.map(({ price: at, share }) => ({ price: flippedPrice(at), share })),
    ...(terms.wrong === undefined ? {} : { wrong: flippedPrice(terms.wrong) }),
  };
}

const told = ({ events }: Followed) => events.map(({ price: _, ...event }) => event);

/** The same figures, as exactly as sums of halves are. */
function near<T extends object>(of: T): T {
  const close = Object.entries(of).map(([name, value]) => [
    name,
    typeof value === "number" ? (expect.closeTo(value, 9) as unknown) : (value as unknown),
  ]);
  return Object.fromEntries(close) as T;
}

describe("laws of scenarios", () => {
  it("turned upside down, what happens happens upside down", () => {
    let events = 0;
    for (const one of cases(7, 600)) {
      const terms = termsOfCase(one.scenario);
      const up = followTerms(terms, factsOf(one), toldOf(one));
      const layers = layersOfCase(one).map(({ base, series }) => ({ base, series: turned(series, flip) }));
      const down = followTerms(mirrored(terms), factsOf(one), { ...toldOf(one), layers });
      expect(told(down)).toEqual(told(up));
      up.events.forEach(({ price }, i) => expect(down.events[i].price).toBeCloseTo(flip(price), 9));
      expect(down.result.r).toBeCloseTo(up.result.r, 9);
      expect([down.result.best, down.result.worst]).toEqual([
        expect.closeTo(up.result.best, 9),
        expect.closeTo(up.result.worst, 9),
      ]);
      events += up.events.length;
    }
    expect(events).toBeGreaterThan(500);
  });
  it("bars that come later change nothing of what was told", () => {
    let earlier = 0;
    cases(8, 400).forEach((one, n) => {
      const terms = termsOfCase(one.scenario);
      const whole = followTerms(terms, factsOf(one), toldOf(one));
      const until = asInstant((one.scenario.since + 60 * (1 + (n % 12))) * MINUTE);
      const before = followTerms(terms, factsOf(one), { ...toldOf(one), until });
      expect(before.events).toEqual(whole.events.slice(0, before.events.length));
      expect(whole.events.slice(before.events.length).every(({ knownAt }) => knownAt > until)).toBe(true);
      earlier += before.events.length;
    });
    expect(earlier).toBeGreaterThan(100);
  });
  it("split in two legs of half the risk it is the same", () => {
    let entered = 0;
    for (const one of cases(9, 1000)) {
      const terms = termsOfCase(one.scenario);
      const { entry, stop, targets, breakEven, ...common } = terms;
      const leg = { if: [], entry, stop, targets, breakEven, risk: 0.5 };
      const halves: SeveralTerms = { ...common, legs: [leg, leg] };
      const whole = followTerms(terms, factsOf(one), toldOf(one));
      const split = followTerms(halves, factsOf(one), toldOf(one));
      expect(split.result).toEqual(near(whole.result));
      for (const leg of [1, 2])
        expect(split.events.filter((event) => event.leg === leg)).toEqual(
          whole.events.map((event) => ({ ...event, leg })),
        );
      if (whole.events.some(({ event }) => event === "entered")) entered++;
    }
    expect(entered).toBeGreaterThan(40);
  });
});
