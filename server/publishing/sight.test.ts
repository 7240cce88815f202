import { describe, expect, it } from "vitest";
import { PARTS, type EditionPart } from "#core/edition/parts";
import { fromBars } from "#core/series/series";
import type { Section } from "./section.ts";
import { drawnFor, partsDrawn, picturesFor, seeOfView, viewName } from "./sight.ts";
import { frozenLayer, type FrozenStudy } from "./studies.ts";

const rsi: FrozenStudy = {
  ...{ study: "rsi", params: { period: 14, of: "close" }, height: 0.14, name: "RSI 14", says: "at 60.0: rising" },
  lines: [{ name: "value", unit: "hundred", values: [null, 55, 60] }],
};
const section = { marks: [], scenarios: [], studies: [rsi] } as unknown as Section;
const bars = fromBars(
  [1, 2, 3].map((close, i) => ({ time: i * 86_400_000, open: close, high: close, low: close, close, volume: 0 })),
);
const market = { id: "m", name: "M", tick: 1, pip: 1, pipName: "pt", decimals: 0 };

describe("studies in the pictures of editions", () => {
  it("are drawn for plans that show words, and for no other", () => {
    expect(partsDrawn(section)).toEqual(["words"]);
    expect(drawnFor(section, PARTS).studies).toEqual([rsi]);
    for (const parts of [["pictures"], ["pictures", "levels", "counts", "scenarios", "orders"]] as EditionPart[][])
      expect(drawnFor(section, parts).studies).toEqual([]);
    // Each of the two has a picture of its own, which asks for what is in it.
    const pictures = picturesFor(section, [["pictures"], [...PARTS]]);
    expect(pictures).toEqual([["words"], []]);
    expect(pictures.map((parts) => seeOfView(viewName("wide", parts)))).toEqual(["pictures+words", "pictures"]);
  });
  it("are drawn as they were frozen, not worked out anew", () => {
    const layer = frozenLayer([rsi], bars, market)!;
    const chosen = layer.beneathAt(0)!;
    expect(chosen).toMatchObject({ study: "rsi", height: 0.14 });
    expect(layer.says(chosen)).toContain("at 60.0");
  });
  it("that cannot be read any more are left out: an edition outlives the studies there are", () => {
    expect(frozenLayer([{ ...rsi, study: "gone" }], bars, market)).toBeUndefined();
    expect(frozenLayer([{ ...rsi, params: { period: -1 } }], bars, market)).toBeUndefined();
    expect(frozenLayer([{ ...rsi, lines: [] }], bars, market)).toBeDefined();
  });
});
