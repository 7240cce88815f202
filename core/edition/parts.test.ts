import { describe, expect, it } from "vitest";
import { canSee, PARTS, partsInOrder } from "#core/edition/parts";

describe("parts of an edition", () => {
  it("are seen by a plan that has every one that is asked for, and what cannot be read by none", () => {
    expect(canSee("all", [])).toBe(true);
    expect(canSee("words", [])).toBe(false);
    expect(canSee("pictures+counts", ["pictures"])).toBe(false);
    expect(canSee("pictures+counts", ["counts", "pictures"])).toBe(true);
    for (const unknown of ["", "everything", "words+", "toString", "words,levels"])
      expect(canSee(unknown, PARTS), unknown).toBe(false);
  });

  it("stand in one order, and entries never without the scenarios they are of", () => {
    expect(partsInOrder(["pictures", "words", "words"])).toEqual(["words", "pictures"]);
    expect(partsInOrder(["orders", "words"])).toEqual(["words"]);
    expect(partsInOrder(["orders", "scenarios"])).toEqual(["scenarios", "orders"]);
  });
});
