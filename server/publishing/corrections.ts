import { randomUUID } from "node:crypto";
import { diffWords } from "diff";
import { RISK, type Block } from "#core/edition/blocks";
import { textOfWords, wordsOf } from "#core/edition/words";
import { Edition, type Draft } from "../database/models.ts";
import { contentOf, type EditionContent } from "./content.ts";
import { createDraft } from "./drafts.ts";
import { findEdition } from "./editions.ts";

/** What an edition that is of another one does to it: that one stays as it is, and says so beside its words. */
export type CorrectionHow = "correction" | "withdrawal";
export const CORRECTIONS: readonly CorrectionHow[] = ["correction", "withdrawal"];

/**
 * A draft that corrects an edition, beginning with what that one said, or takes it back. Calls go on being followed as
 * they were made: nothing that is in the record is taken out of it.
 */
export async function beginCorrection(number: number, how: CorrectionHow, accountId: string): Promise<Draft> {
  const { edition, content } = await findEdition(String(number));
  const words = content.blocks.flatMap((block): Block[] =>
    block.kind === "words" ? [{ kind: "words", id: randomUUID(), words: block.words }] : [],
  );
  const begins: Block[] = how === "withdrawal" ? [{ kind: "words", id: randomUUID(), words: wordsOf("") }] : words;
  const title = how === "withdrawal" ? `Withdrawn: ${edition.title}`.slice(0, 200) : edition.title;
  const blocks: Block[] = [...begins, { kind: "risk", id: randomUUID(), text: RISK }];
  return createDraft(accountId, { kind: "update", title, blocks, corrects: { number, how } });
}

/** A stretch of words, as it was, as it is, or both. */
export interface Stretch {
  text: string;
  is: "same" | "added" | "removed";
}

export const wordsText = ({ blocks }: Pick<EditionContent, "blocks">): string =>
  blocks.flatMap((block) => (block?.kind === "words" ? [textOfWords(block.words)] : [])).join("\n\n");

/** What became of words, in stretches. */
export function differenceOf(before: string, after: string): Stretch[] {
  return diffWords(before, after).map(({ value, added, removed }) => ({
    text: value,
    is: added ? "added" : removed ? "removed" : "same",
  }));
}

/** Words that may be other ones in a correction that is called small. */
const FEW = 3;

/** Whether only a few words changed and no number: a slip of the pen. */
export function isSmall(before: string, after: string): boolean {
  const changed = differenceOf(before, after).filter(({ is }) => is !== "same");
  const words = (is: Stretch["is"]) =>
    changed.filter((one) => one.is === is).flatMap(({ text }) => text.split(/\s+/).filter(Boolean)).length;
  return Math.max(words("added"), words("removed")) <= FEW && !changed.some(({ text }) => /\d/.test(text));
}

/** An edition that corrects another one, or takes it back. */
export interface Correction {
  number: number;
  how: CorrectionHow;
  small: boolean;
  publishedAt: number;
  /** Of a correction what became of the words; of a withdrawal what was said of it. */
  difference: Stretch[];
}

/** What editions of these numbers said later of one, oldest first; `read` gives of each what whoever asks may see. */
export async function correctionsOf(
  numbers: readonly number[],
  content: EditionContent,
  read: (canonical: string) => EditionContent = contentOf,
): Promise<Correction[]> {
  if (numbers.length === 0) return [];
  const later = await Edition.findAll({ where: { number: [...numbers] }, order: [["number", "ASC"]] });
  let before = wordsText(content);
  return later.flatMap((edition): Correction[] => {
    const { corrects, ...own } = read(edition.canonical);
    if (!corrects) return [];
    const text = wordsText(own);
    const isWithdrawal = corrects.how === "withdrawal";
    const difference = isWithdrawal ? [{ text, is: "same" as const }] : differenceOf(before, text);
    if (!isWithdrawal) before = text;
    const { how, small = false } = corrects;
    return [{ number: edition.number, how, small, publishedAt: edition.publishedAt, difference }];
  });
}
