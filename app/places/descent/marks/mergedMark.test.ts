import { describe, expect, it } from "vitest";
import type { Mark } from "#core/marks/kind";
import { same } from "./markContent.ts";
import { mergedMark } from "./mergedMark.ts";

const base: Mark = {
  id: "a",
  kind: "zone",
  market: "m",
  rung: "P1D",
  anchors: [
    { time: 1, price: 10 },
    { time: 2, price: 12 },
  ],
  props: { side: "demand", label: "" },
  note: "",
  author: "x",
  version: 3,
};

describe("a mark that two people changed", () => {
  it("keeps the note of one and the anchor the other dragged", () => {
    const ours = { ...base, note: "held twice" };
    const theirs = { ...base, version: 4, anchors: [base.anchors[0], { time: 2, price: 13 }] };
    const merged = mergedMark(base, ours, theirs);
    expect(merged).toEqual({ ...theirs, note: "held twice" });
    // Whose change came first makes no difference to what is said.
    expect(same(mergedMark(base, theirs, ours), merged)).toBe(true);
  });
  it("keeps each one's anchor, and each one's prop", () => {
    const ours = {
      ...base,
      anchors: [{ time: 1, price: 9 }, base.anchors[1]],
      props: { side: "demand", label: "shelf" },
    };
    const theirs = {
      ...base,
      anchors: [base.anchors[0], { time: 3, price: 12 }],
      props: { side: "supply", label: "" },
    };
    expect(mergedMark(base, ours, theirs)).toMatchObject({
      anchors: [
        { time: 1, price: 9 },
        { time: 3, price: 12 },
      ],
      props: { side: "supply", label: "shelf" },
    });
  });
  it("asks where both changed one field, unless they made the same of it", () => {
    const to = (note: string) => ({ ...base, note });
    expect(mergedMark(base, to("one"), to("two"))).toBeUndefined();
    expect(mergedMark(base, to("one"), to("one"))?.note).toBe("one");
  });
  it("a field that was taken away stays away; one that came stays", () => {
    const locked = { ...base, locked: true };
    expect(mergedMark(locked, { ...base, locked: false }, { ...locked, hidden: true })).not.toHaveProperty("locked");
    expect(mergedMark(locked, locked, { ...locked, hidden: true })).toMatchObject({ locked: true, hidden: true });
  });
  it("with more anchors than before is nobody's to mix: anchors of one count, notes of the other", () => {
    const ours = { ...base, anchors: [...base.anchors, { time: 5, price: 11 }] };
    expect(mergedMark(base, ours, { ...base, note: "n" })).toMatchObject({ anchors: ours.anchors, note: "n" });
    expect(mergedMark(base, ours, { ...base, anchors: base.anchors.slice(0, 1) })).toBeUndefined();
  });
});
