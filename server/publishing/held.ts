import { Account, Draft, type GoesOut } from "../database/models.ts";
import { post } from "../outbox/outbox.ts";

/** A draft that was to go out and did not. */
export interface HeldDraft {
  id: string;
  title: string;
  author: string;
  /** When it was to go out. */
  at: number;
  /** Why it did not. */
  held: string;
}

/** Drafts that were to go out and did not, until somebody takes them back in hand. */
export async function heldDrafts(): Promise<HeldDraft[]> {
  const attributes = ["id", "title", "accountId", "goesOut"];
  const drafts = (await Draft.findAll({ where: { published: null }, attributes })).flatMap(
    ({ id, title, accountId, goesOut }) =>
      goesOut?.held === undefined ? [] : [{ id, title, accountId, at: goesOut.at, held: goesOut.held }],
  );
  if (drafts.length === 0) return [];
  const people = await Account.findAll({ attributes: ["id", "name"], raw: true });
  return drafts.map(({ accountId, ...draft }) => ({
    ...draft,
    author: people.find(({ id }) => id === accountId)?.name ?? "a former colleague",
  }));
}

/** A mail to whoever wrote it and whoever said that it goes out: readers wait for it. */
export async function tellHeld({ id, accountId }: Draft, { at, by }: GoesOut): Promise<void> {
  for (const to of new Set([accountId, by.id]))
    await post({ name: `held ${id} ${at} to ${to}`, accountId: to, what: { held: id } });
}
