import type { FollowUp } from "#core/scenarios/follow";
import type { OutcomeNote } from "#core/scenarios/note";
import { Edition, FollowUpRow, OutcomeNoteRow } from "../database/models.ts";
import { notFound } from "../failure.ts";
import { drawPicture, type DrawnPicture } from "../pictures/pictures.ts";
import { GENESIS, sha256 } from "./freeze.ts";
import type { EditionContent } from "./publish.ts";
import { pictureOf, type Section } from "./section.ts";

export interface EditionLine {
  number: number;
  title: string;
  publishedAt: number;
}

export async function listEditions(): Promise<EditionLine[]> {
  return Edition.findAll({ attributes: ["number", "title", "publishedAt"], order: [["number", "DESC"]], raw: true });
}

export async function findEdition(text: string): Promise<{ edition: Edition; content: EditionContent }> {
  const edition = /^\d{1,9}$/.test(text) ? await Edition.findByPk(Number(text)) : null;
  if (!edition) throw notFound("outlook");
  return { edition, content: JSON.parse(edition.canonical) as EditionContent };
}

export interface StoredFollowUp {
  scenarioId: string;
  sequence: number;
  event: FollowUp;
}

export async function followUpsOf(number: number): Promise<StoredFollowUp[]> {
  return FollowUpRow.findAll({
    where: { edition: number },
    order: [
      ["scenarioId", "ASC"],
      ["sequence", "ASC"],
    ],
    attributes: ["scenarioId", "sequence", "event"],
    raw: true,
  });
}

export interface StoredNote {
  scenarioId: string;
  note: OutcomeNote;
}

/** What became known later about the outcomes of an edition, oldest first. */
export async function notesOf(number: number): Promise<StoredNote[]> {
  return OutcomeNoteRow.findAll({ where: { edition: number }, order: [["createdAt", "ASC"]], attributes: ["scenarioId", "note"], raw: true });
}

/** Whether an edition is what was published: its hash fits its text, and its text names the edition before. */
export async function verifyEdition(number: number): Promise<{ holds: boolean; why: string }> {
  const { edition, content } = await findEdition(String(number));
  if (sha256(edition.canonical) !== edition.sha256) return { holds: false, why: "The text does not fit its hash." };
  const before = number > 1 ? await Edition.findByPk(number - 1, { attributes: ["sha256"], raw: true }) : null;
  if (content.previous !== (before?.sha256 ?? GENESIS)) return { holds: false, why: "It does not follow from the edition before." };
  return { holds: true, why: "The text fits its hash and follows from the edition before." };
}

const PICTURE = { width: 860, height: 460 };

/** A section's picture. Frozen like the edition, so an address of one never changes what it shows. */
export async function sectionSvg(content: EditionContent, index: number): Promise<string> {
  return (await sectionPicture(content, index)).svg;
}

/** The picture a section would be frozen with. */
export async function previewPng(section: Section): Promise<Uint8Array> {
  const { picture, view } = pictureOf(section);
  return (await drawPicture(picture, view, PICTURE, section.market.name)).png;
}

async function sectionPicture(content: EditionContent, index: number): Promise<DrawnPicture> {
  const section = content.sections[index];
  if (!section) throw notFound("picture");
  const { picture, view } = pictureOf(section);
  return drawPicture(picture, view, PICTURE, `${section.market.name}, ${section.rung}: ${content.title}`);
}

export async function sectionPng(content: EditionContent, index: number): Promise<Uint8Array> {
  return (await sectionPicture(content, index)).png;
}
