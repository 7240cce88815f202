import { randomUUID } from "node:crypto";
import type { DraftDto } from "#contracts/draft";
import { audit } from "../audit/audit.ts";
import { findMarket } from "../bars/markets.ts";
import { Draft } from "../database/models.ts";
import { Failure, notFound } from "../failure.ts";

/** Drafts of one account that are not published yet. */
const MOST_DRAFTS = 200;

export async function createDraft(accountId: string, section?: Draft["sections"][number]): Promise<Draft> {
  if ((await Draft.count({ where: { accountId, published: null } })) >= MOST_DRAFTS)
    throw new Failure("many", `You have ${MOST_DRAFTS} drafts already.`, {
      kept: "No draft was begun.",
      remedy: "Publish or empty some of them first.",
    });
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
  const plain = sections.map(({ market, rung, scenarios, counts }) => {
    const shown = counts && { counts: { degrees: counts.degrees, alternates: counts.alternates } };
    return { market, rung, scenarios, ...shown };
  });
  for (const market of new Set(plain.map((section) => section.market))) await findMarket(market);
  const before = await Draft.findByPk(id, { raw: true });
  const [changed] = await Draft.update(
    { title, body, sections: plain, version: version + 1, updatedAt: Date.now() },
    { where: { id, version, published: null } },
  );
  if (changed === 1) {
    // Saved as it is typed: what stood there before is kept once in a while, and whenever a colleague begins to write.
    await audit({
      what: "draft changed",
      subject: `draft ${id.slice(0, 8)}`,
      detail: { before: { title: before?.title, body: before?.body, sections: before?.sections } },
      once: 600_000,
    });
    return findDraft(id);
  }
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
