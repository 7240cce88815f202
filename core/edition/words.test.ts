import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { MOST_WORDS, readWords } from "#core/edition/readWords";
import { chipsOf, chipsRenewed, textOfWords, wordsOf, type Chip, type Words } from "#core/edition/words";

const doc = (...content: unknown[]) => ({ type: "doc", content });
const paragraph = (...content: unknown[]) => ({ type: "paragraph", content });
const text = (of: string, ...marks: unknown[]) => ({ type: "text", text: of, ...(marks.length > 0 ? { marks } : {}) });
const link = (href: string) => ({ type: "link", attrs: { href } });
const chip: Chip = { market: "tin", of: "mark", id: "a", part: "at level", text: "404.10" };

describe("words from plain text", () => {
  it("are paragraphs, with the breaks of their lines", () => {
    expect(wordsOf("One.\n\n\nTwo\nlines. ")).toEqual(
      doc(paragraph(text("One.")), paragraph(text("Two"), { type: "hardBreak" }, text("lines."))),
    );
    expect(wordsOf(" \n\n ")).toEqual(doc());
    expect(textOfWords(wordsOf("One.\n\nTwo\nlines."))).toBe("One.\n\nTwo\nlines.");
  });
});

describe("words of the editor", () => {
  it("keep headings, lists, quotes, emphasis, links and numbers of the desk as they are", () => {
    const written = doc(
      { type: "heading", attrs: { level: 2 }, content: [text("Tin")] },
      paragraph(text("Above ", { type: "bold" }), { type: "chip", attrs: chip }, text(", see ", { type: "italic" })),
      { type: "bulletList", content: [{ type: "listItem", content: [paragraph(text("first"))] }] },
      { type: "orderedList", content: [{ type: "listItem", content: [paragraph(text("then"))] }] },
      { type: "blockquote", content: [paragraph(text("as said", link("https://meridian.example/1")))] },
    );
    expect(readWords(written)).toEqual(written);
    expect(textOfWords(readWords(written))).toBe("Tin\n\nAbove 404.10, see \n\n- first\n\n1. then\n\n> as said");
  });
  it("say what the desk says now where they hold a number of it, and what they last said where it is gone", () => {
    const gone = { ...chip, id: "b", text: "9" };
    const words = readWords(doc(paragraph({ type: "chip", attrs: chip }, { type: "chip", attrs: gone })));
    expect(chipsOf(words)).toEqual([chip, gone]);
    const renewed = chipsRenewed(words, ({ id }) => (id === "a" ? "405.00" : undefined));
    expect(chipsOf(renewed).map(({ text: says }) => says)).toEqual(["405.00", "9"]);
    const within = readWords(doc({ type: "blockquote", content: [paragraph({ type: "chip", attrs: chip })] }));
    expect(chipsOf(chipsRenewed(within, () => "1"))).toEqual([{ ...chip, text: "1" }]);
  });
});

describe("a table among words", () => {
  const cell = (of: string, type = "tableCell") => ({ type, content: [paragraph(...(of ? [text(of)] : []))] });
  const row = (...cells: unknown[]) => ({ type: "tableRow", content: cells });
  const table = (...rows: unknown[]) => ({ type: "table", content: rows });
  it("keeps its head, its cells and the numbers of the desk in them", () => {
    const own = table(
      row(cell("Level", "tableHeader"), cell("Price", "tableHeader")),
      row(cell("lid"), { type: "tableCell", content: [paragraph({ type: "chip", attrs: chip })] }),
    );
    const read = readWords(doc(own));
    expect(read).toEqual(doc(own));
    expect(textOfWords(read)).toBe("Level | Price\nlid | 404.10");
    expect(textOfWords(chipsRenewed(read, () => "405.00"))).toBe("Level | Price\nlid | 405.00");
    expect(chipsOf(read)).toEqual([chip]);
  });
  it("has rows of one length, none that reaches over another, and no table or list within", () => {
    const spanned = { ...cell("wide"), attrs: { colspan: 3, rowspan: 1e9, style: "position:fixed" } };
    const within = { type: "tableCell", content: [table(row(cell("inner"))), { type: "bulletList", content: [] }] };
    expect(readWords(doc(table(row(spanned), row(cell("a"), within), "no row")))).toEqual(
      doc(
        table(
          row(cell("wide"), { type: "tableCell", content: [{ type: "paragraph" }] }),
          row(cell("a"), {
            type: "tableCell",
            content: [paragraph(text("inner")), { type: "paragraph" }],
          }),
        ),
      ),
    );
    expect(readWords(doc(table(), table(row())))).toEqual(doc());
    const wide = table(...Array.from({ length: 90 }, () => row(...Array.from({ length: 40 }, () => cell("x")))));
    const [{ content }] = readWords(doc(wide)).content as { content: { content: unknown[] }[] }[];
    expect([content.length, content[0].content.length]).toEqual([60, 12]);
  });
});

describe("hostile words", () => {
  it.each([
    ["a script", doc({ type: "script", content: [paragraph(text("kept"))] }), doc(paragraph(text("kept")))],
    [
      "an address that runs something",
      doc(paragraph(text("here", link("javascript:alert(1)"), link("data:text/html,x"), link("//x")))),
      doc(paragraph(text("here"))),
    ],
    ["a picture", doc(paragraph({ type: "image", attrs: { src: "x" } }, text("kept"))), doc(paragraph(text("kept")))],
    // UAX 9: an override turns what follows around, so that "evil.exe" is read as something else.
    ["a direction override", doc(paragraph(text("a\u202eb\u2066c\u0000d"))), doc(paragraph(text("abcd")))],
    [
      "a broken table of a clipboard",
      doc({ type: "tableRow", content: [{ type: "tableCell", content: [paragraph(text("1"))] }, 7, null] }),
      doc(paragraph(text("1"))),
    ],
    ["half a pair of surrogates", doc(paragraph(text("a\ud800"))), doc(paragraph(text("a\ufffd")))],
    ["no document", "a text", doc()],
    ["a list in no document", [1, 2], doc()],
    ["a number of no kind", doc(paragraph({ type: "chip", attrs: { ...chip, of: "x" } })), doc({ type: "paragraph" })],
    [
      "a heading of another level",
      doc({ type: "heading", attrs: { level: 1 }, content: [text("a")] }),
      doc({ type: "heading", attrs: { level: 2 }, content: [text("a")] }),
    ],
  ])("%s is cut down to what is allowed", (_name, raw, kept) => expect(readWords(raw)).toEqual(kept));
  it("lists within lists without end become a paragraph of their text", () => {
    let deep: unknown = paragraph(text("deep"));
    for (let n = 0; n < 2_000; n++) deep = { type: "blockquote", content: [deep] };
    expect(textOfWords(readWords(doc(deep)))).toContain("deep");
  });
  it("too many of them are refused with a sentence", () => {
    expect(() => readWords(doc(paragraph(text("a".repeat(MOST_WORDS + 1)))))).toThrow(/more than 20,000 characters/);
    expect(() => readWords(doc(...Array.from({ length: 6_000 }, () => paragraph())))).toThrow(/more than 5000 parts/);
  });
  it("whatever they are, come out as words that come out the same again", () => {
    fc.assert(
      fc.property(fc.anything({ maxDepth: 6 }), fc.anything(), (one, other) => {
        const read = readWords({ type: "doc", content: [one, { type: "paragraph", content: other }] }) as Words;
        expect(readWords(JSON.parse(JSON.stringify(read)))).toEqual(read);
      }),
      { numRuns: 500 },
    );
  });
});
