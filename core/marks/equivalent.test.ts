import { describe, expect, it } from "vitest";
import { driftOf, equivalentAnchors, relationOf } from "#core/marks/equivalent";
import { differences, type Wording } from "#core/marks/difference";
import { mark } from "#core/testing/marks";

describe("a mark taken over from another market", () => {
  const anchors = [
    { time: 0, price: 400 },
    { time: 9, price: 410 },
  ];
  it("by ratio: a tenth there is a tenth here", () => {
    const value = relationOf(4000, 400, "ratio");
    expect(equivalentAnchors(anchors, { by: "ratio", value }).map(({ price }) => price)).toEqual([4000, 4100]);
  });
  it("by difference: as many points apart", () => {
    const value = relationOf(430, 400, "difference");
    expect(equivalentAnchors(anchors, { by: "difference", value }).map(({ price }) => price)).toEqual([430, 440]);
    // Spreads may lie below zero; a ratio of such prices says nothing.
    expect(relationOf(-5, 3, "difference")).toBe(-8);
    expect(() => relationOf(-5, 3, "ratio")).toThrow(RangeError);
  });
  it("drifts by what the relation has moved since, and not while it stands", () => {
    const ratio = { by: "ratio", value: 10 } as const;
    expect(driftOf(4000, ratio, 4200, 420)).toBeCloseTo(0);
    // 4200 to 400 is 10.5: carried over now, 400 there would lie at 4200 here.
    expect(driftOf(4000, ratio, 4200, 400)).toBeCloseTo(200);
    expect(driftOf(430, { by: "difference", value: 30 }, 455, 420)).toBeCloseTo(5);
  });
});

describe("two versions of a mark", () => {
  const words: Wording = {
    price: String,
    time: (time) => `day ${time / 86_400_000}`,
    anchor: (i) => `Anchor ${i + 1}`,
    prop: (name) => (name === "label" ? "Name" : name),
  };
  const one = mark("level", [[0, 10]], { label: "shelf" });
  it("that are the same differ in nothing, whatever their numbers of version", () => {
    expect(differences(one, { ...one, version: 9 }, words)).toEqual([]);
  });
  it("name each thing that differs, both ways", () => {
    const other = { ...one, anchors: [{ ...one.anchors[0], price: 11 }], props: { label: "ledge" }, locked: true };
    expect(differences(one, other, words)).toEqual([
      { what: "Anchor 1", ours: "10", theirs: "11" },
      { what: "Name", ours: "shelf", theirs: "ledge" },
      { what: "Locked", ours: "no", theirs: "yes" },
    ]);
  });
  it("say which was removed, and which has more anchors", () => {
    expect(differences(one, undefined, words)).toEqual([{ what: "The mark", ours: "stands", theirs: "removed" }]);
    const longer = mark("count", [
      [0, 1],
      [1, 2],
      [2, 1.5],
    ]);
    expect(
      differences({ ...longer, anchors: longer.anchors.slice(0, 2) }, longer, words).map(({ what, ours }) => [
        what,
        ours,
      ]),
    ).toEqual([
      ["Anchor 3", "none"],
      ["Anchor 3, time", "none"],
    ]);
  });
});
