import { describe, expect, it } from "vitest";
import type { Area } from "#core/areas/areas";
import type { CountProps } from "#core/marks/countProps";
import type { Mark } from "#core/marks/kind";
import { scenarioFromCount, pathAnchors } from "#core/scenarios/fromCount";
import { mark } from "#core/testing/marks";

const counted = (prices: number[], props: Record<string, unknown> = {}) =>
  mark(
    "count",
    prices.map((price, i) => [i, price]),
    props,
  ) as unknown as Mark<CountProps>;
const area = (bottom: number, top: number): Area => ({ bottom, top, weight: 3, reasons: [], rungs: ["P1W", "P1D"] });

// Prices worked by hand from the ratios in targets.test.ts.
describe("a scenario from a count", () => {
  it("goes the way of the wave that runs with the trend, wrong where the count dies", () => {
    const scenario = scenarioFromCount(counted([100, 200, 150]), 160, 4, []);
    expect(scenario).toMatchObject({
      direction: "long",
      order: "market",
      entry: 160,
      stop: 150,
      invalidation: 150,
      targets: [250, 311.8],
      title: "Intermediate wave 3",
    });
    expect(scenario?.path[0]).toEqual({ at: 0, price: 160 });
    expect(scenario?.path.at(-1)).toEqual({ at: 1, price: expect.closeTo(311.8, 6) as number });
  });
  it("waits at the nearest area before the price that ends it, with the stop beyond that area", () =>
    expect(scenarioFromCount(counted([100, 200, 150]), 170, 4, [area(155, 158), area(120, 125)])).toMatchObject({
      order: "limit",
      entry: 158,
      stop: 154,
      invalidation: 150,
    }));
  it("never waits beside the price that ends it: it would be triggered at its own stop", () => {
    const beside = scenarioFromCount(counted([100, 200, 150]), 170, 4, [area(149.5, 150.5)]);
    expect(beside).toMatchObject({ order: "market", entry: 170 });
    expect(scenarioFromCount(counted([100, 200, 150]), 150.9, 4, [])).toBeUndefined();
    expect(scenarioFromCount(counted([100, 200, 150]), 151.1, 4, [])).toMatchObject({ entry: 151.1, stop: 150 });
  });
  it("while a correction runs it waits for its end and goes on with the whole", () => {
    const scenario = scenarioFromCount(counted([100, 200, 150, 350]), 320, 8, []);
    expect(scenario).toMatchObject({ direction: "long", order: "limit", entry: 302.8, stop: 200, invalidation: 200 });
    expect(scenario?.targets.every((price) => price > 302.8)).toBe(true);
  });
  it("a falling count is the mirror of a rising one", () => {
    const [up, down] = [
      scenarioFromCount(counted([100, 200, 150]), 160, 4, []),
      scenarioFromCount(counted([400, 300, 350]), 340, 4, []),
    ];
    expect(down).toMatchObject({
      direction: "short",
      entry: 340,
      stop: 350,
      targets: up?.targets.map((price) => expect.closeTo(500 - price, 6) as number),
    });
  });
  it("a complete count, or one that dies on neither side of the stop, asks for none", () => {
    expect(scenarioFromCount(counted([100, 120, 110, 150, 135, 160]), 150, 4, [])).toBeUndefined();
    expect(
      scenarioFromCount(
        mark(
          "count",
          [
            [0, 150],
            [1, 120],
          ],
          { root: { pattern: "flat", pivots: [0, 1], inner: [null, null, null] } },
        ) as unknown as Mark<CountProps>,
        130,
        4,
        [],
      ),
    ).toBeUndefined();
  });
  it("its path stands on the bars to come", () => {
    const anchors = pathAnchors(
      [
        { at: 0, price: 1 },
        { at: 0.5, price: 2 },
        { at: 1, price: 3 },
      ],
      { time: 9, price: 1 },
      [10, 11, 12, 13],
    );
    expect(anchors).toEqual([
      { time: 9, price: 1 },
      { time: 11, price: 2 },
      { time: 13, price: 3 },
    ]);
  });
});
