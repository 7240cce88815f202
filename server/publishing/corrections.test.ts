import { describe, expect, it } from "vitest";
import type { Block } from "#core/edition/blocks";
import { textOfWords, wordsOf } from "#core/edition/words";
import { WHOLE } from "../accounts/plans.ts";
import { advance } from "../intake/feed.ts";
import { becameOf, wouldSee } from "../readers/seen.ts";
import type { EditionContent } from "./content.ts";
import { aWorld } from "../publishingTesting.ts";
import { checkRecord, forgetCheck } from "../record/check.ts";
import { watchersOf, withTables } from "../testing.ts";
import { beginCorrection, differenceOf, isSmall } from "./corrections.ts";
import { saveDraft } from "./drafts.ts";
import { findEdition } from "./editions.ts";
import { publish } from "./publish.ts";

/** What a reader who sees everything is told of an edition later. */
const correctionsSeenOf = async (number: number, content: EditionContent) =>
  (await becameOf(number, wouldSee(content, WHOLE), WHOLE)).corrections;

withTables();

const worded = (blocks: readonly Block[], text: string): Block[] =>
  blocks.map((block) => (block.kind === "words" ? { ...block, words: wordsOf(text) } : block));

describe("an edition that was wrong", () => {
  it("stays as it is, and has beside it what was put right, in stretches of words", async () => {
    const { draft, author } = await aWorld([100]);
    const number = await publish(draft.id, author);
    const before = (await findEdition(String(number))).edition.canonical;
    const fix = await beginCorrection(number, "correction", author.id);
    expect(fix).toMatchObject({ kind: "update", title: "A title" });
    expect(fix.blocks.map((block) => (block.kind === "words" ? textOfWords(block.words) : block.kind))).toEqual([
      "Words.",
      "risk",
    ]);
    await saveDraft(fix.id, {
      version: 1,
      title: fix.title,
      kind: fix.kind,
      blocks: worded(fix.blocks, "Wider words 105."),
    });
    const second = await publish(fix.id, author);
    const { content } = await findEdition(String(second));
    expect(content.corrects).toEqual({ number, how: "correction" });
    const { edition, content: old } = await findEdition(String(number));
    expect(edition.canonical).toBe(before);
    const [correction] = await correctionsSeenOf(number, old);
    expect(correction).toMatchObject({ number: second, how: "correction", small: false });
    const of = (is: string) => correction.difference.filter((one) => one.is === is).map(({ text }) => text.trim());
    expect([of("removed"), of("added")].map((texts) => texts.join(" "))).toEqual(["Words", "Wider words 105"]);
    forgetCheck();
    expect(await checkRecord()).toMatchObject({ holds: true, faults: [] });
  });
  it("a slip of the pen is marked small, by the words that changed and never where a number did", async () => {
    expect(isSmall("The base holds at 101.", "The base held at 101.")).toBe(true);
    expect(isSmall("The base holds at 101.", "The base holds at 110.")).toBe(false);
    expect(isSmall("The base holds.", "All of what was said here was wrong.")).toBe(false);
    const { draft, author } = await aWorld([100]);
    const number = await publish(draft.id, author);
    const fix = await beginCorrection(number, "correction", author.id);
    await saveDraft(fix.id, { version: 1, title: "A title", kind: "update", blocks: worded(fix.blocks, "Words!") });
    await publish(fix.id, author);
    const [correction] = await correctionsSeenOf(number, (await findEdition(String(number))).content);
    expect(correction.small).toBe(true);
  });
  it("is taken back with a reason, and its calls go on being followed", async () => {
    const { draft, author } = await aWorld([102, 102, 102, 102, 102, 102, 103]);
    const number = await publish(draft.id, author);
    const back = await beginCorrection(number, "withdrawal", author.id);
    expect(back.title).toBe("Withdrawn: A title");
    const blocks = worded(back.blocks, "The bars of that morning were wrong.");
    await saveDraft(back.id, { version: 1, title: back.title, kind: "update", blocks });
    const second = await publish(back.id, author);
    const [withdrawal] = await correctionsSeenOf(number, (await findEdition(String(number))).content);
    expect(withdrawal).toMatchObject({
      number: second,
      how: "withdrawal",
      difference: [{ text: "The bars of that morning were wrong.", is: "same" }],
    });
    await advance(7);
    const [watcher] = await watchersOf(number);
    expect(watcher.state).toMatchObject({ phase: "open" });
    expect(await watchersOf(second)).toEqual([]);
  });
});

describe("what became of words", () => {
  it("put together again is what they were, and what they are", () => {
    const [before, after] = ["Tin holds 101.\n\nWatch the close.", "Tin held 101, and more.\n\nWatch the close."];
    const difference = differenceOf(before, after);
    const without = (is: string) =>
      difference
        .filter((one) => one.is !== is)
        .map(({ text }) => text)
        .join("");
    expect(without("added")).toBe(before);
    expect(without("removed")).toBe(after);
  });
});
