import type { EditionKind } from "#core/edition/blocks";
import { PARTS, type EditionPart } from "#core/edition/parts";
import { asFollowUp, type FollowUp } from "#core/scenarios/events";
import type { OutcomeNote } from "#core/scenarios/note";
import { LRUCache } from "lru-cache";
import { Edition, FollowUpRow, OutcomeNoteRow } from "../database/models.ts";
import { notFound } from "../failure.ts";
import type { DrawnPicture } from "../pictures/pictures.ts";
import { checkRecord } from "../record/check.ts";
import { digestOf } from "../record/digest.ts";
import { leavesOf } from "../record/leaves.ts";
import { chartsOf, contentOf, type EditionContent, type FirstContent } from "./content.ts";
import type { PictureLayout } from "#core/edition/layouts";
import { drawOne } from "./pictures.ts";
import type { Section } from "./section.ts";
import { drawnFor } from "./sight.ts";

export interface EditionLine {
  number: number;
  kind: EditionKind;
  title: string;
  publishedAt: number;
  /** Market time it is of. */
  marketTime: number;
  corrects: number | null;
  /** Markets it speaks of, by the names they had then. */
  markets: { id: string; name: string }[];
  /** When the last of its markets has closed after it was published. */
  closesAt: number | null;
}

/** What editions say of themselves, by the digests of their texts: the same text says the same. */
const lines = new LRUCache<string, EditionLine>({ max: 50_000 });

/** An edition in a list: what its own text says; columns find it, and are not believed. */
export function lineOf(
  content: EditionContent,
  { publishedAt, closesAt = null }: Pick<Edition, "publishedAt"> & { closesAt?: number | null },
): EditionLine {
  const { number, kind, title, corrects } = content;
  const markets = new Map(chartsOf(content).map(({ market: { id, name } }) => [id, { id, name }]));
  return {
    ...{ number, kind, title, corrects: corrects?.number ?? null, markets: [...markets.values()] },
    // Early texts do not say when their markets close.
    closesAt: content.closesAt === undefined ? closesAt : Date.parse(content.closesAt),
    publishedAt: content.publishedAt === undefined ? publishedAt : Date.parse(content.publishedAt),
    marketTime: Date.parse(content.marketTime),
  };
}

/** Every edition, the newest first. */
export async function listEditions(): Promise<EditionLine[]> {
  const rows = await Edition.findAll({ attributes: ["number", "sha256"], order: [["number", "DESC"]], raw: true });
  const keyOf = ({ number, sha256 }: Pick<Edition, "number" | "sha256">) => `${number} ${sha256}`;
  const unread = rows.filter((row) => !lines.has(keyOf(row))).map(({ number }) => number);
  // A few at a time: texts are long, and a desk has thousands.
  for (let from = 0; from < unread.length; from += AT_ONCE) {
    const part = await Edition.findAll({ where: { number: unread.slice(from, from + AT_ONCE) }, raw: true });
    for (const row of part) lines.set(keyOf(row), lineOf(contentOf(row.canonical), row));
  }
  return rows.flatMap((row) => lines.get(keyOf(row)) ?? []);
}

const AT_ONCE = 50;

export async function findEdition(text: string): Promise<{ edition: Edition; content: EditionContent }> {
  const edition = /^\d{1,9}$/.test(text) ? await Edition.findByPk(Number(text)) : null;
  if (!edition) throw notFound("outlook");
  const content = contentOf(edition.canonical);
  // Found by its number: a text that says another one is no edition of that number.
  if (content.number !== edition.number) throw notFound("outlook");
  return { edition, content };
}

export interface StoredFollowUp {
  scenarioId: string;
  sequence: number;
  event: FollowUp;
}

export async function followUpsOf(number: number): Promise<StoredFollowUp[]> {
  const rows = await FollowUpRow.findAll({
    where: { edition: number },
    order: [
      ["scenarioId", "ASC"],
      ["sequence", "ASC"],
    ],
  });
  return rows.map(({ scenarioId, sequence, event }) => ({ scenarioId, sequence, event: asFollowUp(event) }));
}

export interface StoredNote {
  scenarioId: string;
  note: OutcomeNote;
}

/** What became known later about the outcomes of an edition, oldest first. */
export async function notesOf(number: number): Promise<StoredNote[]> {
  return OutcomeNoteRow.findAll({
    where: { edition: number },
    order: [["createdAt", "ASC"]],
    attributes: ["scenarioId", "note"],
    raw: true,
  });
}

/** Whether an edition is what was published, and the record it stands in is whole. */
export async function verifyEdition(
  number: number,
): Promise<{ holds: boolean; why: string; entries: number; head: string }> {
  const { edition, content } = await findEdition(String(number));
  const { faults, entries, head } = await checkRecord();
  const told = (holds: boolean, why: string) => ({ holds, why, entries, head });
  // Asked of the text itself, which is being read: the check of the whole may be some moments old.
  if (digestOf(edition.canonical) !== edition.sha256 || content.number !== number || content.title !== edition.title)
    return told(false, "The text does not fit its hash.");
  if (faults.length > 0)
    return told(
      false,
      `The record does not hold: ${faults[0]}${faults.length > 1 ? ` And ${faults.length - 1} more.` : ""}`,
    );
  return told(
    true,
    `Checked: this is the text that was entered, the record holds from its first entry to its last (${entries}), and ` +
      "every call comes to what is told of it by the bars it was told. Not proven: where those bars came from.",
  );
}

/** The picture a section would be frozen with. */
export async function previewPng(
  section: Section,
  { layout = "wide", parts = PARTS }: { layout?: PictureLayout; parts?: readonly EditionPart[] } = {},
): Promise<Uint8Array> {
  return (await drawOne(drawnFor(section, parts), layout, section.market.name)).png;
}

/** Pictures of editions that were published before pictures were kept. */
const drawn = new LRUCache<string, DrawnPicture>({ max: 50 });

/** The picture of a chart of an edition of the first format, which holds all it is drawn from. */
export async function firstPicture(number: number, index: number): Promise<DrawnPicture> {
  const { edition } = await findEdition(String(number));
  const content = leavesOf(edition.canonical) ? undefined : (JSON.parse(edition.canonical) as FirstContent);
  const section = content?.format === "even-compass-edition-1" ? content.sections[index] : undefined;
  if (!content || !section) throw notFound("picture");
  const key = `${content.number} ${content.previous} ${index}`;
  const known = drawn.get(key);
  if (known) return known;
  const made = await drawOne(section, "wide", `${section.market.name}, ${section.rung}: ${content.title}`);
  drawn.set(key, made);
  return made;
}
