import { randomUUID } from "node:crypto";
import type { QuestionDto } from "#contracts/question";
import { LONGEST_ANSWER } from "#contracts/draft";
import { canSee, type EditionPart } from "#core/edition/parts";
import type { Block } from "#core/edition/blocks";
import { audit } from "../audit/audit.ts";
import { sightOf, type Sight } from "../accounts/plans.ts";
import type { Person } from "../accounts/sessions.ts";
import { transact } from "../database/connection.ts";
import { readOnce } from "../database/readOnce.ts";
import { Account, Draft, QuestionRow } from "../database/models.ts";
import { Failure, notFound } from "../failure.ts";
import { createDraft } from "../publishing/drafts.ts";
import { seeEdition } from "./seen.ts";

/** What a reader said to an edition, as it is shown. */
export interface QuestionLine {
  id: string;
  about: string;
  stance: QuestionDto["stance"];
  words: string;
  state: QuestionRow["state"];
  createdAt: number;
  answer: string | null;
  answeredBy: string | null;
  /** Whether it is of whoever looks. */
  own: boolean;
  /** Id of what it is a reply to. */
  to: string | null;
}

/** Of one reader so many wait to be looked at, at most. */
const MOST_WAITING = 10;

/** A reader asks, agrees or disagrees; it is shown to others once somebody at the desk has looked at it. */
export async function ask(number: string, dto: QuestionDto, person: Person): Promise<void> {
  const sight = await sightOf(person);
  const { edition } = await seeEdition(number, sight);
  const parentId = dto.to === undefined ? null : await threadOf(dto.to, edition.number, person, sight);
  const row = {
    ...{ id: randomUUID(), parentId, edition: edition.number, accountId: person.id, createdAt: Date.now() },
    ...{ about: dto.about, stance: dto.stance, words: dto.words.trim(), parts: [...sight.parts] },
    state: "waiting" as const,
  };
  await transact(async (transaction) => {
    // One after the other of one reader: those that come at once are counted, too.
    await Account.findByPk(person.id, { attributes: ["id"], transaction, lock: transaction.LOCK.UPDATE });
    const where = { accountId: person.id, state: "waiting" };
    if ((await QuestionRow.count({ where, transaction })) >= MOST_WAITING)
      throw new Failure("many", `${MOST_WAITING} of your questions wait to be looked at.`, {
        status: 429,
        kept: "This one was not sent.",
        remedy: "Send it once some of them are answered.",
      });
    await QuestionRow.create(row, { transaction });
  });
}

/** What begins the thread a reply belongs to: of this edition, and shown to whoever replies. */
async function threadOf(id: string, number: number, person: Person, sight: Sight): Promise<string> {
  const shown = (await questionsSeen(number, person, sight)).find((one) => one.id === id && one.state === "shown");
  if (!shown) throw notFound("question");
  return shown.to ?? shown.id;
}

/** Somebody is shown what others said where their plan shows as much as those others were shown. */
const showsAsMuch = (parts: readonly EditionPart[], sight: Sight) => parts.every((part) => canSee(part, sight.parts));

/** What was said to an edition: what is shown to all who see as much, and one's own. */
export async function questionsSeen(number: number, person: Person, sight: Sight): Promise<QuestionLine[]> {
  const rows = await readOnce(["questions", number], () =>
    QuestionRow.findAll({ where: { edition: number }, order: [["createdAt", "ASC"]] }),
  );
  const isSeen = ({ accountId, state, parts }: QuestionRow) =>
    accountId === person.id || (state === "shown" && showsAsMuch(parts, sight));
  const begins = new Map(rows.filter(({ parentId }) => !parentId).map((row) => [row.id, row]));
  return rows
    .filter((row) => {
      // A reply is shown with what it replies to, or not at all.
      const begun = row.parentId ? begins.get(row.parentId) : row;
      return begun !== undefined && isSeen(begun) && isSeen(row);
    })
    .map((row) => ({ ...lineOf(row), own: row.accountId === person.id }));
}

const lineOf = ({ id, about, stance, words, state, createdAt, answer, answeredBy, parentId }: QuestionRow) => ({
  ...{ id, about, stance, words, state, createdAt, to: parentId ?? null },
  ...{ answer: answer ?? null, answeredBy: answeredBy ?? null },
});

/** What waits at the desk, the oldest first, and what was answered last. */
export async function questionsAtDesk(): Promise<
  (Omit<QuestionLine, "own"> & { edition: number; who: string; sees: EditionPart[] })[]
> {
  const [waiting, rest] = await Promise.all([
    QuestionRow.findAll({ where: { state: "waiting" }, order: [["createdAt", "ASC"]], limit: 200 }),
    QuestionRow.findAll({ where: { state: ["shown", "refused"] }, order: [["createdAt", "DESC"]], limit: 30 }),
  ]);
  const rows = [...waiting, ...rest];
  const ids = rows.flatMap(({ accountId }) => accountId ?? []);
  const accounts = await Account.findAll({ where: { id: ids }, attributes: ["id", "name"], raw: true });
  const names = new Map(accounts.map(({ id, name }) => [id, name]));
  return rows.map((row) => ({
    ...{ ...lineOf(row), edition: row.edition, sees: row.parts },
    who: names.get(row.accountId ?? "") ?? "somebody who left",
  }));
}

export const questionsWaiting = (): Promise<number> => QuestionRow.count({ where: { state: "waiting" } });

async function findQuestion(id: string): Promise<QuestionRow> {
  const row = id.length <= 36 ? await QuestionRow.findByPk(id) : null;
  if (!row) throw notFound("question");
  return row;
}

/** Somebody at the desk shows it, with an answer or without, or refuses it. */
export async function decide(
  id: string,
  state: "shown" | "refused",
  answer: string | undefined,
  by: Person,
): Promise<void> {
  const row = await findQuestion(id);
  const words = (answer ?? "").trim().slice(0, LONGEST_ANSWER);
  const said = words === "" ? {} : { answer: words, answeredBy: by.name, answeredAt: Date.now() };
  await row.update({ state, ...said });
  await audit({ what: "question decided", subject: `${state}, edition ${row.edition}: ${row.words}`, by });
}

/** Puts a question with its answer into the draft somebody wrote in last, or into a new one; which that is. */
export async function quote(id: string, by: Person): Promise<string> {
  const { words, answer } = await findQuestion(id);
  const last = await Draft.findOne({
    where: { accountId: by.id, published: null, corrects: null as never },
    order: [["updatedAt", "DESC"]],
  });
  const draft = last ?? (await createDraft(by.id));
  const block: Block = { kind: "question", id: randomUUID(), asked: words, answer: answer ?? "" };
  const end = draft.blocks.findIndex(({ kind }) => kind === "risk");
  const at = end < 0 ? draft.blocks.length : end;
  const blocks = [...draft.blocks.slice(0, at), block, ...draft.blocks.slice(at)];
  const [changed] = await Draft.update(
    { blocks, version: draft.version + 1, updatedAt: Date.now() },
    { where: { id: draft.id, version: draft.version } },
  );
  if (changed === 0) throw new Failure("stale", "The draft was changed meanwhile.", { status: 409 });
  return draft.id;
}
