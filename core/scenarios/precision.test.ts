import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { asInstant } from "#core/observe/instant";
import { followTerms } from "#core/scenarios/follow";
import { readScenarioTerms } from "#core/scenarios/terms";
import { allHours, layer, rows } from "#core/testing/told";
import { MINUTE } from "#core/time/dates";

const HOUR = 60 * MINUTE;
const BEGIN = Date.UTC(2024, 0, 1);
const QUARTERS = 4;

type Row = [number, number, number, number, number];

/** Quarters of an hour without gaps between them: the way through an hour is then one of its ways. */
function quarters(steps: readonly (readonly [number, number, number])[]): Row[] {
  let price = 100;
  return steps.map(([move, above, below], i) => {
    const open = price;
    price = Math.max(1, price + move);
    return [BEGIN + i * 15 * MINUTE, open, Math.max(open, price) + above, Math.min(open, price) - below, price];
  });
}

function hoursOf(fine: readonly Row[]): Row[] {
  return Array.from({ length: Math.floor(fine.length / QUARTERS) }, (_, n) => {
    const part = fine.slice(n * QUARTERS, (n + 1) * QUARTERS);
    const [highs, lows] = [part.map(([, , high]) => high), part.map(([, , , low]) => low)];
    return [part[0][0], part[0][1], Math.max(...highs), Math.min(...lows), part[QUARTERS - 1][4]];
  });
}

const world = fc.record({
  steps: fc.array(
    fc.tuple(fc.integer({ min: -3, max: 3 }), fc.integer({ min: 0, max: 2 }), fc.integer({ min: 0, max: 2 })),
    { minLength: 24, maxLength: 120 },
  ),
  /** Hours of which only the hour's bar is there. */
  coarse: fc.array(fc.boolean(), { minLength: 30, maxLength: 30 }),
  sign: fc.constantFrom(1, -1),
  order: fc.constantFrom("market", "limit", "stop"),
  trigger: fc.option(fc.integer({ min: -3, max: 3 })),
  entry: fc.integer({ min: -4, max: 4 }),
  risk: fc.integer({ min: 1, max: 6 }),
  rewards: fc.tuple(fc.integer({ min: 1, max: 5 }), fc.integer({ min: 1, max: 5 })),
  beyond: fc.integer({ min: 0, max: 3 }),
  breakEven: fc.constantFrom(null, { after: "target" }, { r: 1 }),
});

describe("bars of several resolutions", () => {
  let certain = 0;
  let finished = 0;
  it("what they tell for certain, the finest alone tell as well: no event they would deny", () => {
    fc.assert(
      fc.property(world, ({ steps, coarse, sign, order, trigger, entry: at, risk, rewards, beyond, breakEven }) => {
        const fine = quarters(steps);
        const hours = hoursOf(fine);
        const whole = fine.slice(0, hours.length * QUARTERS);
        const held = whole.filter((_, i) => !coarse[Math.floor(i / QUARTERS) % coarse.length]);
        const entry = 100 + at;
        const [first, more] = rewards;
        const terms = readScenarioTerms(
          {
            direction: sign > 0 ? "long" : "short",
            if:
              trigger === null
                ? []
                : [{ when: { on: "close", side: sign > 0 ? "above" : "below", price: 100 + trigger, rung: "PT1H" } }],
            entry: { order, price: entry },
            stop: entry - sign * risk,
            targets: [
              { price: entry + sign * first, share: 0.5 },
              { price: entry + sign * (first + more), share: 0.5 },
            ],
            breakEven,
            wrong: entry - sign * (risk + beyond),
            expires: BEGIN + hours.length * HOUR,
          },
          Number,
        );
        const facts = { since: asInstant(BEGIN), tick: 1, zone: "UTC" };
        const told = (mixed: boolean) => {
          const layers = mixed ? [layer("PT1H", rows(...hours)), layer("PT15M", rows(...held))] : [];
          const all = layers.filter(({ series }) => series.length > 0);
          const only = [layer("PT15M", rows(...whole))];
          return followTerms(terms, facts, { layers: mixed ? all : only, calendar: allHours, k: 3 });
        };
        const [mixed, finest] = [told(true), told(false)];
        // A resting order is void when a bar opens at its stop: of that opening the coarser bar knows nothing.
        if (mixed.result.ambiguous || finest.events.some(({ event }) => event === "invalid")) return;
        certain++;
        if (mixed.events.some(({ event }) => event === "stopped" || event === "completed")) finished++;
        const plain = ({ events }: typeof mixed) =>
          events.map(({ event, price, target, step, r }) => [event, price, target, step, r]);
        expect(plain(mixed)).toEqual(plain(finest));
        expect(mixed.result.r).toBeCloseTo(finest.result.r, 9);
      }),
      { numRuns: 1500 },
    );
    // The law is about something: these are fewer when almost all is ambiguous.
    expect(certain).toBeGreaterThan(500);
    expect(finished).toBeGreaterThan(100);
  });
});
