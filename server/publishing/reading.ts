import { audit } from "../audit/audit.ts";
import { Account, Draft, type ByWhom, type Reading } from "../database/models.ts";
import { Failure } from "../failure.ts";
import { deskSettings } from "./deskSettings.ts";
import { findDraft } from "./drafts.ts";

export const READING_STEPS = ["asked", "approved", "back"] as const satisfies readonly Reading["state"][];

/** Words that can be asked back. */
const MOST_WORDS = 2000;

/**
 * A step of a colleague's reading: its author asks for one, somebody else approves the version that stands, or asks
 * back. A draft that is changed afterwards wants to be read once more.
 */
export async function readDraft(
  id: string,
  state: Reading["state"],
  by: ByWhom,
  version: number,
  words = "",
): Promise<void> {
  const draft = await findDraft(id);
  const refused = (sentence: string, remedy: string) =>
    new Failure("reading", sentence, { status: 409, kept: "Nothing was changed.", remedy });
  if (draft.published !== null)
    throw refused("This outlook is published.", "What is to be said of it is a correction.");
  if (state === "approved" && draft.accountId === by.id)
    throw refused("Nobody approves an own draft.", "Ask a colleague to read it.");
  if (state === "back" && words.trim() === "") throw refused("What is asked back?", "Write it in a sentence.");
  if (words.length > MOST_WORDS)
    throw refused(`More than ${MOST_WORDS} letters.`, "Shorten it, or talk to each other.");
  const reading: Reading = { state, by: { id: by.id, name: by.name }, at: Date.now(), version, words: words.trim() };
  const [changed] = await Draft.update({ reading }, { where: { id, version, published: null } });
  if (changed === 0) throw refused("The draft was changed meanwhile.", "Read it as it stands now.");
  await audit({ what: "reading step", subject: `draft ${id.slice(0, 8)}: ${state}`, by: { id: by.id, name: by.name } });
}

export interface ReadingLine {
  id: string;
  title: string;
  author: string;
  updatedAt: number;
  /** None where nobody has asked for a reading yet. */
  state: Reading["state"] | undefined;
  /** Whether it was changed since that was said. */
  isChanged: boolean;
}

const MOST_LISTED = 60;

/** Drafts that are not published, those that wait for a reading first, then those changed last. */
export async function listReadings(): Promise<ReadingLine[]> {
  const drafts = await Draft.findAll({
    where: { published: null },
    order: [["updatedAt", "DESC"]],
    limit: MOST_LISTED,
  });
  const people = await Account.findAll({ attributes: ["id", "name"], raw: true });
  const names = new Map(people.map(({ id, name }) => [id, name]));
  const lines = drafts.map(({ id, title, accountId, updatedAt, reading, version }): ReadingLine => ({
    ...{ id, title, updatedAt, author: names.get(accountId) ?? "A former colleague" },
    ...{ state: reading?.state, isChanged: reading !== null && reading !== undefined && reading.version !== version },
  }));
  return lines.sort((a, b) => Number(b.state === "asked") - Number(a.state === "asked"));
}

/** Whether a colleague has approved a draft as it stands. */
export const isApproved = ({ reading, version }: Pick<Draft, "reading" | "version">): boolean =>
  reading?.state === "approved" && reading.version === version;

/** Refuses a draft nobody has read, where the desk wants one to. */
export async function checkRead(draft: Draft): Promise<void> {
  if (isApproved(draft) || !(await deskSettings()).reading) return;
  throw new Failure("unread", "A colleague reads an outlook of this desk before it goes out.", {
    status: 409,
    kept: "The draft is saved; nothing was published.",
    remedy:
      draft.reading?.state === "approved" ? "It was changed since it was approved: ask once more." : "Ask for it.",
  });
}
