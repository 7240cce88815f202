import { describe, expect, it } from "vitest";
import { BLOCK_NAMES, KIND_NAMES, marketsOf, plainDraft, templateOf } from "#core/edition/blocks";
import { textOfWords } from "#core/edition/words";

const ids = () => {
  let n = 0;
  return () => `id ${++n}`;
};

describe("kinds of edition", () => {
  it.each(KIND_NAMES)("%s begins with words and ends with the risk notice, each block of its own id", (kind) => {
    const blocks = templateOf(kind, ids());
    expect(blocks.at(0)?.kind).toBe("words");
    expect(blocks.at(-1)).toMatchObject({ kind: "risk", text: expect.stringMatching(/not advice/) as string });
    expect(new Set(blocks.map(({ id }) => id)).size).toBe(blocks.length);
    for (const { kind: own } of blocks) expect(Object.keys(BLOCK_NAMES)).toContain(own);
  });
  it("the calendar of a week has seven days, that of a morning its own", () => {
    const days = (kind: "week" | "morning") =>
      templateOf(kind, ids()).flatMap((block) => (block.kind === "calendar" ? [block.days] : []));
    expect(days("week")).toEqual([7]);
    expect(days("morning")).toEqual([1]);
  });
});

describe("a plain draft", () => {
  it("is words, markets in their order, and the notice", () => {
    const section = { rung: "P1D", scenarios: [] };
    const { blocks } = plainDraft("T", "One.\n\nTwo.", [
      { market: "tin", ...section },
      { market: "oil", ...section },
    ]);
    expect(marketsOf(blocks).map(({ market }) => market)).toEqual(["tin", "oil"]);
    expect(blocks.map(({ kind }) => kind)).toEqual(["words", "market", "market", "risk"]);
    expect(blocks[0].kind === "words" && textOfWords(blocks[0].words)).toBe("One.\n\nTwo.");
  });
});
