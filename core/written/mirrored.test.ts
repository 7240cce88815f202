import { describe, expect, it } from "vitest";
import { sayTerms } from "#core/scenarios/sayTerms";
import { aWritten } from "#core/testing/written";
import { checkWritten } from "#core/written/check";
import { mirrored } from "#core/written/mirrored";
import { termsOfWritten } from "#core/written/read";
import type { WrittenTerms } from "#core/written/written";

const onTick = (price: number) => Math.round(price * 100) / 100;
const market = { id: "tin", name: "Tin", tick: 0.01, pip: 0.01, pipName: "pt", decimals: 2 };

/** "Sweeps the high, shifts down, sell": every part of it has a side. */
const short = (): WrittenTerms =>
  aWritten(
    {
      direction: "short",
      if: [
        { when: { on: "sweep", side: "high", price: 110, rung: "PT1H", within: 3 } },
        { when: { on: "shift", direction: "down", rung: "PT15M" }, within: 20 },
        { when: { on: "candle", pattern: "engulfing down", rung: "PT15M" }, within: 20 },
      ],
      while: [{ on: "any", of: [{ on: "close", side: "below", price: 115 }] }],
      wrong: 112,
    },
    {
      entry: { order: "limit", price: 108 },
      stop: { bind: "barHigh", step: 3, ticks: -2 },
      targets: [
        { price: 104, share: 0.5 },
        { price: 102, share: 0.5 },
      ],
    },
  ).terms;

describe("a scenario in the other direction", () => {
  it("has every step from the other side, and its prices as far from the entry on the other side of it", () => {
    const long = mirrored(short(), 107, onTick);
    expect(long).toMatchObject({
      direction: "long",
      if: [{ when: { side: "low", price: 110 } }, { when: { direction: "up" } }, { when: { pattern: "engulfing up" } }],
      while: [{ of: [{ side: "above" }] }],
      wrong: 104,
      orders: [
        {
          stop: { bind: "barLow", ticks: -2 },
          targets: [{ price: 112 }, { price: 114 }],
        },
      ],
    });
    const said = sayTerms(termsOfWritten({ ...aWritten(), terms: long }), market, String);
    expect(said).not.toMatch(/\bshort\b|shifts down|sell/i);
  });

  it("turned twice is what it was", () => {
    expect(mirrored(mirrored(short(), 107, onTick), 107, onTick)).toEqual(short());
  });

  it("has nothing against it that was not there before: stops and targets are on their sides", () => {
    const before = aWritten();
    const other = { ...before, terms: mirrored(before.terms, 102, onTick) };
    const faults = (written: typeof before) =>
      checkWritten(written, { market, now: 0, markets: [] }).filter(({ severity }) => severity === "fault");
    expect(faults(before)).toEqual([]);
    expect(faults(other)).toEqual([]);
  });
});
