import { randomUUID } from "node:crypto";
import type { SaveSentenceDto } from "#contracts/scenario";
import { readWrittenTerms } from "#core/written/readWritten";
import type { WrittenTerms } from "#core/written/written";
import { isDuplicate } from "../database/connection.ts";
import { SentenceRow } from "../database/models.ts";
import { Failure, notFound } from "../failure.ts";

/** A sentence an analyst keeps: its prices are distances from the close, in ATR. */
export interface OwnSentence {
  id: string;
  name: string;
  terms: WrittenTerms;
}

const MOST_SENTENCES = 60;

export async function sentencesOf(accountId: string): Promise<OwnSentence[]> {
  const rows = await SentenceRow.findAll({ where: { accountId }, order: [["name", "ASC"]] });
  return rows.map(({ id, name, terms }) => ({ id, name, terms }));
}

/** Keeps a sentence; one of the same name takes the place of the one before. */
export async function keepSentence(
  { name: said, terms: asked }: SaveSentenceDto,
  accountId: string,
): Promise<OwnSentence> {
  const [name, terms] = [said.trim(), readWrittenTerms(asked)];
  const row = await SentenceRow.findOne({ where: { accountId, name } });
  if (row) {
    await row.update({ terms });
    return { id: row.id, name, terms };
  }
  if ((await SentenceRow.count({ where: { accountId } })) >= MOST_SENTENCES)
    throw new Failure("many", `You keep ${MOST_SENTENCES} sentences already.`, {
      kept: "Nothing was changed.",
      remedy: "Let go of one that is no longer wanted.",
    });
  const id = randomUUID();
  try {
    await SentenceRow.create({ id, accountId, name, terms });
  } catch (error) {
    // Kept in another window at the same moment.
    if (isDuplicate(error)) return keepSentence({ name, terms }, accountId);
    throw error;
  }
  return { id, name, terms };
}

export async function dropSentence(id: string, accountId: string): Promise<void> {
  if ((await SentenceRow.destroy({ where: { id, accountId } })) === 0) throw notFound("sentence");
}
