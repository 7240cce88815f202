import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  areasOf,
  bandWeight,
  distanceTo,
  onGrid,
  roomAt,
  rungWeight,
  successorOf,
  type AreaBand,
} from "#core/areas/areas";
import { bandsOfMarks } from "#core/areas/fromMarks";
import { live, mark } from "#core/testing/marks";
import { days } from "#core/testing/openData";

const band = (rung: string, bottom: number, top: number, change: Partial<AreaBand> = {}): AreaBand => ({
  bottom,
  top,
  rung,
  atr: rung === "P1D" ? 4 : rung === "P1W" ? 10 : 1,
  kind: "zone",
  freshness: 1,
  name: "zone",
  id: `${rung} ${bottom} ${top}`,
  sources: [],
  ...change,
});

describe("areas", () => {
  it("are where at least two rungs meet; one rung alone makes none", () => {
    expect(areasOf([band("P1D", 100, 102), band("P1D", 101, 103)])).toEqual([]);
    const [area] = areasOf([band("P1W", 99, 103), band("P1D", 101, 102)]);
    expect(area).toMatchObject({ rungs: ["P1W", "P1D"] });
    expect(area.reasons).toHaveLength(2);
    expect(area.weight).toBeCloseTo(rungWeight("P1W") + rungWeight("P1D"), 12);
  });
  it("merge within a quarter ATR of the finer rung, both ends inclusive, and not beyond", () => {
    expect(areasOf([band("P1W", 100, 101), band("P1D", 102, 103)])).toHaveLength(1);
    expect(areasOf([band("P1W", 100, 101), band("P1D", 102.01, 103)])).toHaveLength(0);
  });
  it("do not chain: what is near a neighbour only is not of it", () => {
    const chain = [100, 103, 106, 109, 112, 115, 118].flatMap((bottom) => [
      band("P1W", bottom, bottom + 1),
      band("P1D", bottom, bottom + 1),
    ]);
    const areas = areasOf(chain);
    for (const { bottom, top } of areas) expect(top - bottom).toBeLessThanOrEqual(4);
    expect(areas.length).toBeGreaterThan(1);
  });
  it("go on when a reason joins or goes, and end with the last one they had", () => {
    const [week, day, hour] = [band("P1W", 99, 103), band("P1D", 101, 102), band("PT1H", 101.2, 101.8)];
    const [before] = areasOf([week, day]);
    const after = areasOf([week, day, hour, band("P1W", 300, 301), band("P1D", 300, 301)]);
    expect(successorOf(before, after)).toBe(after[0]);
    expect(successorOf(after[1], areasOf([week, day]))).toBeUndefined();
  });
  it("count a fact once: one mark, or two of a kind on the same bars, are one reason", () => {
    const sources = [{ from: 0, to: 10 }];
    const facts = [band("P1W", 100, 101, { sources }), band("P1D", 100, 101, { sources: [{ from: 5, to: 6 }] })];
    expect(areasOf(facts)).toEqual([]);
    expect(
      areasOf([...facts, band("P1D", 100, 100, { kind: "level", id: "level" })])[0].reasons.map(({ rung }) => rung),
    ).toEqual(["P1W", "P1D"]);
  });
  it("longer rungs, fresher ones and stronger kinds weigh more", () => {
    expect(rungWeight("P1Y")).toBeGreaterThan(rungWeight("P1D"));
    expect(rungWeight("PT1M")).toBe(1);
    expect(bandWeight(band("P1D", 1, 2, { freshness: 0.5 }))).toBeCloseTo(bandWeight(band("P1D", 1, 2)) / 2, 12);
    expect(bandWeight(band("P1D", 1, 2, { kind: "scribble" }))).toBeLessThan(bandWeight(band("P1D", 1, 2)));
  });
  const bands = fc.array(
    fc
      .tuple(fc.constantFrom("P1W", "P1D", "PT1H"), fc.integer({ min: 0, max: 400 }), fc.integer({ min: 0, max: 30 }))
      .map(([rung, bottom, height]) => band(rung, bottom / 4, (bottom + height) / 4)),
    { maxLength: 25 },
  );
  it(
    "no band speaks for two, none is wider than one ATR of its finest rung, and mirrored prices give " +
      "mirrored areas",
    () => {
      fc.assert(
        fc.property(bands, (list) => {
          const numbered = list.map((one, n) => ({ ...one, id: String(n) }));
          const areas = areasOf(numbered);
          const ids = areas.flatMap(({ reasons }) => reasons.map(({ id }) => id));
          expect(new Set(ids).size).toBe(ids.length);
          for (const { bottom, top, reasons, weight } of areas) {
            const finest = Math.min(...reasons.map(({ rung }) => band(rung, 0, 0).atr));
            expect(top - bottom).toBeLessThanOrEqual(finest + 1e-9);
            expect(weight).toBeCloseTo(
              reasons.reduce((sum, one) => sum + one.weight, 0),
              9,
            );
          }
          const turned = areasOf(
            numbered.map((one) => ({ ...one, bottom: 1000 - one.top, top: 1000 - one.bottom })),
          ).reverse();
          expect(turned.map(({ bottom, top }) => [1000 - top, 1000 - bottom].map((price) => price.toFixed(6)))).toEqual(
            areas.map(({ bottom, top }) => [bottom, top].map((price) => price.toFixed(6))),
          );
        }),
        { numRuns: 100 },
      );
    },
  );
  it("on the market's ticks are never narrower than they were, and stay where they lie on them", () => {
    expect(onGrid({ bottom: 448.66, top: 449.67 }, 0.05)).toEqual({ bottom: 448.65, top: 449.7 });
    expect(onGrid({ bottom: 0.3, top: 0.7 }, 0.1)).toEqual({ bottom: 0.3, top: 0.7 });
  });
  it("tell the room to the nearest on each side", () => {
    const areas = [
      { bottom: 10, top: 11 },
      { bottom: 20, top: 22 },
      { bottom: 30, top: 31 },
    ].map((one) => ({ ...one, weight: 1, reasons: [], rungs: [] }));
    expect(roomAt(areas, 15)).toMatchObject({ above: { bottom: 20 }, below: { top: 11 } });
    expect(roomAt(areas, 21)).toMatchObject({ above: { bottom: 30 }, below: { top: 11 }, inside: { bottom: 20 } });
    expect([distanceTo(areas[1], 15), distanceTo(areas[1], 25), distanceTo(areas[1], 21)]).toEqual([5, -3, 0]);
  });
  it("are made of live marks: dead and hidden ones say nothing", () => {
    const series = days([100, 101, 99, 100], [100, 103, 100, 102]);
    const zone = mark(
      "zone",
      [
        [0, 101],
        [0, 99],
      ],
      { side: "demand", own: true },
    );
    const of = (change: object, dead = false) =>
      bandsOfMarks([{ mark: { ...zone, ...change }, life: { ...live(zone, series), dead } }], () => 4);
    expect(of({})).toMatchObject([{ bottom: 99, top: 101, kind: "zone", atr: 4, freshness: 1 }]);
    expect([of({ hidden: true }), of({}, true)]).toEqual([[], []]);
  });
  it("of a mark weigh by the code of its state, whatever words stand beside it; a target speaks for none", () => {
    const series = days([98, 99, 97, 98], [98, 99, 96, 97], [97, 104, 97, 103], [103, 105, 102, 104]);
    const zone = mark(
      "zone",
      [
        [0, 101],
        [1, 99],
      ],
      { side: "demand", own: true },
    );
    const life = live(zone, series);
    const weigh = (change: object) =>
      bandsOfMarks([{ mark: zone, life: { ...life, ...change } }], () => 4)[0].freshness;
    expect(weigh({ code: "spent", status: "worked through" })).toBe(0.2);
    expect(weigh({ code: "fresh", status: "spent" })).toBe(1);
    const path = mark("path", [
      [0, 100],
      [8, 110],
    ]);
    expect(bandsOfMarks([{ mark: path, life: live(path, series) }], () => 4)).toEqual([]);
  });
});
