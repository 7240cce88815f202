import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { aWritten } from "#core/testing/written";
import { aroundOf } from "#core/written/around";
import { figuresOf } from "#core/written/figures";
import { outlineOf, outlineOfWritten } from "#core/written/outline";
import { termsOfWritten } from "#core/written/read";
import type { WrittenOrder, WrittenTerms } from "#core/written/written";

const terms = (change: Partial<WrittenTerms> = {}, order: Partial<WrittenOrder> = {}) =>
  termsOfWritten(aWritten(change, order));
const at = { close: 102, atr: 4 };

describe("figures of a scenario", () => {
  // Common practice, no source: R is the distance over the risk; size is the money at risk over the risk of a unit.
  it("of one order: percent, pips, ATR and R of each price, blended by the shares, size from account and risk", () => {
    const account = { account: 10_000, share: 0.01, pointValue: 5 };
    const { orders, blended, waitsFor } = figuresOf(terms(), { pip: 0.1 }, { ...at, account });
    expect(orders[0]).toMatchObject({
      entry: 100,
      about: false,
      stop: { price: 98, percent: -0.02, pips: expect.closeTo(-20, 9) as number, atr: -0.5, r: -1 },
      targets: [
        { price: 104, percent: 0.04, atr: 1, r: 2 },
        { price: 106, r: 3 },
      ],
      blended: 2.5,
      // 100 at risk, 2 points of 5 each: 10 units.
      size: 10,
    });
    expect([blended, waitsFor]).toEqual([2.5, undefined]);
  });
  it("of a probe and an addition: one reward to risk, each by its share of the risk", () => {
    const [first] = aWritten().terms.orders;
    const added = { ...first, entry: { order: "limit" as const, price: 99 }, risk: 0.25 };
    const { blended, orders } = figuresOf(
      terms({ orders: [{ ...first, risk: 0.75 }, added] }),
      { pip: 0.1 },
      { ...at, account: { account: 1000, share: 0.02, pointValue: 1 } },
    );
    // The addition risks 1 for 5 and 7: 6 on the mean.
    expect(blended).toBeCloseTo(0.75 * 2.5 + 0.25 * 6, 12);
    expect(orders.map((one) => one?.size)).toEqual([7.5, 5]);
  });
  it("what a step will bind is guessed near what the step is about, and said to be a guess", () => {
    const sweep = { when: { on: "sweep", side: "low", price: 98, rung: "P1D", within: 0 } };
    const bound = terms(
      { if: [sweep, { when: { on: "shift", direction: "up", rung: "PT1H" } }] },
      {
        entry: { order: "limit", price: 100 },
        stop: { bind: "sweptExtreme", step: 1, ticks: -2 },
        targets: [{ price: { r: 2 }, share: 1 }],
      },
    );
    const { orders, waitsFor } = figuresOf(bound, { pip: 0.1 }, at);
    expect(orders[0]).toMatchObject({ stop: { price: 98, about: true }, targets: [{ price: 104, about: true, r: 2 }] });
    expect(waitsFor).toBe(1);
    // Of a candle nothing is known before.
    const unknown = terms(
      { if: [{ when: { on: "candle", pattern: "either", rung: "P1D" } }] },
      { stop: { bind: "barLow", step: 1 } },
    );
    expect(figuresOf(unknown, { pip: 0.1 }, at)).toEqual({ orders: [undefined], blended: undefined, waitsFor: 1 });
  });
  it("a stop on the wrong side has no figures", () =>
    expect(figuresOf(terms({}, { stop: 103 }), { pip: 0.1 }, at).orders).toEqual([undefined]));
});

describe("the outline of a scenario", () => {
  it("goes through its steps to the entry and on to the targets, and knows each price by its field", () => {
    const { path, prices, direction } = outlineOf(terms());
    // A close above 101 is drawn beyond it by 0.4 of the room between entry and stop.
    expect(path).toEqual([expect.closeTo(101.8, 9), 100, 104, 106]);
    expect(prices.map(({ field, what, price }) => [field, what, price])).toEqual([
      ["orders[0].entry.price", "entry", 100],
      ["orders[0].stop", "stop", 98],
      ["orders[0].targets[0].price", "target", 104],
      ["orders[0].targets[1].price", "target", 106],
      ["wrong", "wrong", 97],
    ]);
    expect(direction).toBe("long");
  });
  it("a sweep goes beyond and comes back; what is not about a price adds no turn", () => {
    const steps = [
      { when: { on: "sweep", side: "low", price: 99, rung: "P1D", within: 0 } },
      { when: { on: "time", from: "08:00", to: "10:00" } },
      { when: { on: "leave", band: [98, 99], by: 2, side: "above" } },
    ];
    expect(outlineOf(terms({ if: steps as never })).path.slice(0, 3)).toEqual([
      expect.closeTo(98.2, 9),
      expect.closeTo(99.8, 9),
      101,
    ]);
  });
  it("while prices are missing it has those that stand, and no way", () => {
    const written = aWritten({}, { stop: null, targets: [{ price: null, share: 1 }] });
    expect(outlineOfWritten(written)).toMatchObject({ path: [], prices: [{ price: 100 }, { price: 97 }] });
  });
});

describe("what lies about a scenario", () => {
  const zone = (name: string, bottom: number, top: number) => ({
    ...{ name, kind: "zone", rung: "P1D", bottom, top, price: bottom },
    band: [bottom, top] as [number, number],
  });
  it("how far each trigger is, the room to what stands against it, and what is left of the day", () => {
    const subjects = [zone("behind", 95, 96), zone("far", 108, 109), zone("near", 105, 106)];
    const around = aroundOf(terms(), { close: 102, subjects, usual: 5, made: 3 });
    expect(around).toEqual({
      triggers: [{ step: 1, price: 101, distance: -1 }],
      room: { name: "near", distance: 5 },
      left: 2,
    });
    expect(aroundOf(terms(), { close: 102, subjects: [], usual: 5, made: 7 }).left).toBe(0);
    expect(aroundOf(terms(), { close: 102, subjects: [] })).toMatchObject({ room: undefined, left: undefined });
  });
});

describe("an order at the market", () => {
  const close = (side: "above" | "below", price: number) => ({ when: { on: "close", side, price, rung: "PT15M" } });
  const blended = (change: Partial<WrittenTerms>, order: Partial<WrittenOrder>, price: number) =>
    figuresOf(terms(change, { entry: { order: "market" }, ...order }), { pip: 0.01 }, { close: price });
  it("is reckoned from the price its last step needs, and says so", () => {
    // A close above 83.51, then the next open: the entry cannot be below it. (1.00 + 2.00) / 2 / 1.00 = 1.50.
    const order = { stop: 82.51, targets: [84.51, 85.51].map((price) => ({ price, share: 0.5 })) };
    const { orders, blended: reward } = blended({ if: [close("above", 83.51)] }, order, 83.11);
    expect(orders[0]).toMatchObject({ entry: 83.51, neededBy: 1, about: true });
    expect(reward).toBeCloseTo(1.5, 9);
    // Where price is beyond it already, it is filled there.
    expect(blended({ if: [close("above", 83.51)] }, order, 83.8).orders[0]).toMatchObject({ entry: 83.8 });
    // Without a step that names a price it is about where price is.
    const candle = { when: { on: "candle", pattern: "either", rung: "PT15M" } };
    expect(blended({ if: [candle] }, order, 83.11).orders[0]).toMatchObject({ entry: 83.11 });
    expect(blended({ if: [candle] }, order, 83.11).orders[0]?.neededBy).toBeUndefined();
  });
  it("is never shown a reward above what a fill that its last step allows would have", () => {
    const parts = fc.record({
      long: fc.boolean(),
      level: fc.integer({ min: 9_000, max: 11_000 }),
      now: fc.integer({ min: 9_000, max: 11_000 }),
      risk: fc.integer({ min: 1, max: 500 }),
      gain: fc.integer({ min: 1, max: 2_000 }),
    });
    fc.assert(
      fc.property(parts, ({ long, level, now, risk, gain }) => {
        const sign = long ? 1 : -1;
        const [stop, target] = [level - sign * risk, level + sign * gain].map((cents) => cents / 100);
        const { blended: shown } = blended(
          { direction: long ? "long" : "short", if: [close(long ? "above" : "below", level / 100)] },
          { stop, targets: [{ price: target, share: 1 }] },
          now / 100,
        );
        // The best fill that a close beyond allows is at the very price.
        const best = gain / risk;
        expect(shown ?? -Infinity).toBeLessThanOrEqual(best * (1 + 1e-9));
      }),
    );
  });
});
