import { describe, expect, it } from "vitest";
import { readPdf } from "../readers/pdfTesting.ts";
import { drawPdf, type Paper } from "./pdf.ts";

const paper = (changes: Partial<Paper> = {}): Paper => ({
  ...{ house: "Even Compass", head: "Morning, edition 3", title: "Tin holds its low", author: "Ines Quill" },
  ...{ publishedAt: Date.parse("2026-11-27T06:00Z"), parts: [], foot: "Root abc." },
  ...changes,
});

describe("a paper", () => {
  it("has its head, title, text with headings, and what it is checked by, in that order", async () => {
    const text = "Sable tin, day\n--------------\nThe view: up.\n\n- 454.70  last high";
    const { pages, title, author } = await readPdf(await drawPdf(paper({ parts: [{ text, pictures: [] }] })));
    expect(pages).toHaveLength(1);
    const said = [
      ...["Even Compass. Morning, edition 3", "Tin holds its low", "Sable tin, day", "The view: up."],
      ...["- 454.70 last high", "Root abc.", "Tin holds its low, 1 of 1"],
    ];
    expect(pages[0].replace(/\s+/g, " ").trim()).toBe(said.join(" "));
    // The line under a heading is no text.
    expect(pages[0]).not.toContain("---");
    expect({ title, author }).toEqual({ title: "Tin holds its low", author: "Ines Quill" });
  });

  it("goes on to further pages, each numbered, with every line of it on one of them", async () => {
    const lines = Array.from({ length: 200 }, (_, i) => `Line number ${i}.`);
    const { pages } = await readPdf(await drawPdf(paper({ parts: [{ text: lines.join("\n"), pictures: [] }] })));
    expect(pages.length).toBeGreaterThan(2);
    const all = pages.join(" ");
    for (const line of lines) expect(all).toContain(line);
    pages.forEach((page, i) => expect(page).toContain(`${i + 1} of ${pages.length}`));
  });

  it("has letters of any name and sign prices are told with", async () => {
    const text = "\u00d7 Wrong below 1.36549, \u2212 0.8 %, Skerry \u2026 \u201cquoted\u201d, Zo\u00eb Ny\u00e5m";
    const { pages } = await readPdf(await drawPdf(paper({ parts: [{ text, pictures: [] }] })));
    expect(pages[0]).toContain(text);
  });
});
