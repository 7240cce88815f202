import { describe, expect, it } from "vitest";
import { plainDraft, type Block } from "#core/edition/blocks";
import { mergeDrafts, mergeWords, type Written } from "#core/edition/merge";
import { textOfWords, wordsOf, type Words } from "#core/edition/words";

const merged = (base: string, mine: string, theirs: string) =>
  textOfWords(mergeWords(wordsOf(base), wordsOf(mine), wordsOf(theirs)));
const draft = (title = "T"): Written =>
  plainDraft(title, "One.\n\nTwo.", [{ market: "tin", rung: "P1D", scenarios: [] }]);
const withBlocks = (of: Written, change: (blocks: Block[]) => Block[]): Written => ({
  ...of,
  blocks: change([...of.blocks]),
});

/** Numbers from 0 to 1, the same each time (a linear congruential generator; constants of Numerical Recipes). */
function random(seed: number): () => number {
  let state = seed;
  return () => (state = (1664525 * state + 1013904223) % 2 ** 32) / 2 ** 32;
}

describe("words two have written in", () => {
  it("have what each wrote, in other paragraphs and in the same one", () => {
    expect(merged("One.\n\nTwo.", "One, mine.\n\nTwo.", "One.\n\nTwo, theirs.")).toBe("One, mine.\n\nTwo, theirs.");
    expect(merged("Tin holds its base.", "Tin still holds its base.", "Tin holds its base today.")).toBe(
      "Tin still holds its base today.",
    );
    expect(merged("One.", "One.\n\nMine.", "Theirs.\n\nOne.")).toBe("Theirs.\n\nOne.\n\nMine.");
  });

  it("written in one place stand both there, and what both did alike stands once", () => {
    expect(merged("", "Mine.", "Theirs.")).toBe("Theirs.\n\nMine.");
    expect(merged("Tin holds.", "Tin falls.", "Tin rises.")).toBe("Tin rises. falls.");
    expect(merged("One.", "Same.", "Same.")).toBe("Same.");
    expect(merged("One.\n\nTwo.", "One.", "One.")).toBe("One.");
  });

  it("keep emphasis and numbers of the desk where they stood", () => {
    const chip = { market: "tin", of: "price" as const, id: "", part: "close", text: "441.90" };
    const paragraph = (before: string, after: string): Words => ({
      type: "doc",
      content: [
        {
          type: "paragraph",
          content: [
            { type: "text", text: before, marks: [{ type: "bold" }] },
            { type: "chip", attrs: chip },
            { type: "text", text: after },
          ],
        },
      ],
    });
    expect(
      mergeWords(paragraph("At ", " it is."), paragraph("Now at ", " it is."), paragraph("At ", " it stands.")),
    ).toEqual(paragraph("Now at ", " it stands."));
  });

  it("in a table are put together cell by cell while it has one shape, and both tables stand where it has not", () => {
    const table = (...rows: string[][]): Words => ({
      type: "doc",
      content: [
        {
          type: "table",
          content: rows.map((row) => ({
            type: "tableRow",
            content: row.map((of) => ({ type: "tableCell", content: wordsOf(of).content as [] })),
          })),
        },
      ],
    });
    const base = table(["lid", "404.10"], ["base", "398.00"]);
    const both = mergeWords(
      base,
      table(["lid", "404.10"], ["floor", "398.00"]),
      table(["lid", "405.00"], ["base", "398.00"]),
    );
    expect(textOfWords(both)).toBe("lid | 405.00\nfloor | 398.00");
    const longer = mergeWords(base, table(["lid", "404.10"]), table(["lid", "404.20"], ["base", "398.00"]));
    expect(textOfWords(longer)).toBe("lid | 404.20\nbase | 398.00\n\nlid | 404.10");
  });

  it("lose no word that either added, whatever they do: a thousand random pairs", () => {
    const next = random(20261129);
    const pick = (n: number) => Math.floor(next() * n);
    let both = 0;
    for (let n = 0; n < 1000; n++) {
      const base = Array.from({ length: 1 + pick(4) }, () => Array.from({ length: 1 + pick(6) }, () => `w${pick(9)}`));
      const edited = (who: string) => {
        const added: string[] = [];
        const own = base.map((words) => [...words]);
        for (let edit = 0; edit <= pick(3); edit++) {
          const word = `${who}${n}x${edit}`;
          added.push(word);
          const line = own[pick(own.length)];
          if (next() < 0.3) own.splice(pick(own.length + 1), 0, [word]);
          else if (next() < 0.3) line.splice(pick(line.length), 1, word);
          else line.splice(pick(line.length + 1), 0, word);
        }
        return { text: own.map((words) => words.join(" ")).join("\n\n"), added };
      };
      const [mine, theirs] = [edited("m"), edited("t")];
      const text = merged(base.map((words) => words.join(" ")).join("\n\n"), mine.text, theirs.text);
      // A word that was written and written over by the same hand is not looked for.
      for (const { text: own, added } of [mine, theirs])
        for (const word of added.filter((one) => own.includes(one))) expect(text, `case ${n}`).toContain(word);
      if (text !== mine.text && text !== theirs.text) both++;
    }
    expect(both).toBeGreaterThan(800);
  });
});

describe("drafts two have written in", () => {
  it("have the blocks of both, in the order of whoever moved something", () => {
    const base = draft();
    const mine = withBlocks(base, (blocks) => [
      ...blocks.slice(0, 2),
      { kind: "board", id: "mine" },
      ...blocks.slice(2),
    ]);
    const theirs = withBlocks({ ...base, title: "Theirs" }, (blocks) => [{ kind: "recap", id: "theirs" }, ...blocks]);
    const { title, blocks } = mergeDrafts(base, mine, theirs);
    expect(title).toBe("Theirs");
    expect(blocks.map(({ id }) => id)).toEqual(["theirs", "words", "market-1", "mine", "risk"]);
    const moved = withBlocks(base, ([words, market, risk]) => [market, words, risk]);
    expect(mergeDrafts(base, moved, theirs).blocks.map(({ id }) => id)).toEqual([
      "theirs",
      "market-1",
      "words",
      "risk",
    ]);
  });

  it("take out what one took out, but not what the other has written in since", () => {
    const base = draft();
    const without = withBlocks(base, (blocks) => blocks.filter(({ id }) => id !== "market-1"));
    expect(mergeDrafts(base, without, base).blocks.map(({ id }) => id)).toEqual(["words", "risk"]);
    const written = withBlocks(base, (blocks) =>
      blocks.map((block) => (block.kind === "market" ? { ...block, words: wordsOf("Holds.") } : block)),
    );
    expect(mergeDrafts(base, without, written).blocks).toContainEqual(written.blocks[1]);
    expect(mergeDrafts(base, written, without).blocks).toContainEqual(written.blocks[1]);
  });

  it("of one market have the rung one chose and the calls the other did", () => {
    const base = draft();
    const market = (change: object) =>
      withBlocks(base, (blocks) => blocks.map((block) => (block.kind === "market" ? { ...block, ...change } : block)));
    const both = mergeDrafts(base, market({ rung: "PT4H" }), market({ scenarios: ["a"], words: wordsOf("Up.") }));
    expect(both.blocks[1]).toMatchObject({ rung: "PT4H", scenarios: ["a"], words: wordsOf("Up.") });
  });

  it("that nobody else changed are mine, and the other way round", () => {
    const [base, other] = [draft(), draft("Other")];
    expect(mergeDrafts(base, other, base)).toEqual(other);
    expect(mergeDrafts(base, base, other)).toEqual(other);
  });
});
