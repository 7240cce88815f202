import { randomUUID } from "node:crypto";
import type { DraftDto } from "#contracts/draft";
import { Draft } from "../database/models.ts";
import { Failure, notFound } from "../failure.ts";

export async function createDraft(accountId: string, section?: Draft["sections"][number]): Promise<Draft> {
  return Draft.create({
    id: randomUUID(),
    accountId,
    title: "",
    body: "",
    sections: section ? [section] : [],
    version: 1,
    published: null,
    updatedAt: Date.now(),
  });
}

export async function findDraft(id: string): Promise<Draft> {
  const draft = id.length <= 36 ? await Draft.findByPk(id) : null;
  if (!draft) throw notFound("draft");
  return draft;
}

export function listDrafts(): Promise<Draft[]> {
  return Draft.findAll({ where: { published: null }, order: [["updatedAt", "DESC"]] });
}

/** Saves a draft unless it was published or changed elsewhere meanwhile. */
export async function saveDraft(id: string, { title, body, sections, version }: DraftDto): Promise<Draft> {
  const plain = sections.map(({ market, rung, scenarios, counts }) => ({ market, rung, scenarios, ...(counts ? { counts: { degrees: counts.degrees, alternates: counts.alternates } } : {}) }));
  const [changed] = await Draft.update(
    { title, body, sections: plain, version: version + 1, updatedAt: Date.now() },
    { where: { id, version, published: null } },
  );
  if (changed === 1) return findDraft(id);
  const draft = await findDraft(id);
  if (draft.published !== null)
    throw new Failure("published", "This outlook has been published and is frozen.", {
      status: 409,
      remedy: "Begin a new one; what is published stays as it is.",
    });
  throw new Failure("stale", "Somebody else changed this draft meanwhile.", {
    status: 409,
    kept: "Their version is stored; yours is still on this page.",
    remedy: "Copy what you need, reload, and put it in.",
  });
}
