import { randomUUID } from "node:crypto";
import type { DraftDto } from "#contracts/draft";
import { marketsIn, templateOf, type Block } from "#core/edition/blocks";
import { readWords, WordsFault } from "#core/edition/readWords";
import type { Words } from "#core/edition/words";
import { audit } from "../audit/audit.ts";
import { findMarket } from "../bars/markets.ts";
import { Draft } from "../database/models.ts";
import { Failure, notFound } from "../failure.ts";
import { deskSettings } from "./deskSettings.ts";

/** Drafts of one account that are not published yet. */
const MOST_DRAFTS = 200;

export async function createDraft(
  accountId: string,
  {
    kind = "morning",
    title = "",
    blocks,
    corrects = null,
  }: Partial<Pick<Draft, "kind" | "title" | "blocks" | "corrects">> = {},
): Promise<Draft> {
  if ((await Draft.count({ where: { accountId, published: null } })) >= MOST_DRAFTS)
    throw new Failure("many", `You have ${MOST_DRAFTS} drafts already.`, {
      kept: "No draft was begun.",
      remedy: "Publish or empty some of them first.",
    });
  return Draft.create({
    id: randomUUID(),
    accountId,
    title,
    kind,
    blocks: blocks ?? templateOf(kind, randomUUID, (await deskSettings()).templates[kind]),
    corrects,
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

/** Plain blocks of what came over the border, each with an id of its own, their words cut down to what is allowed. */
function plainOf(dto: DraftDto["blocks"]): Block[] {
  const blocks = dto.map((one): Block => {
    const block = one as unknown as Block;
    const { id, kind } = block;
    switch (kind) {
      case "words":
        return { kind, id, words: wordsIn(block.words) };
      case "market": {
        const { market, rung, scenarios, counts, studies, words, rests } = block;
        return {
          ...{ kind, id, market, rung, scenarios },
          ...(counts ? { counts: { degrees: counts.degrees, alternates: counts.alternates } } : {}),
          ...(studies === undefined ? {} : { studies }),
          ...(words ? { words: wordsIn(words) } : {}),
          ...(rests ? { rests: rests.map((one) => ({ rung: one.rung, text: one.text })) } : {}),
        };
      }
      case "walk": {
        const steps = block.steps.map(({ rung, text, rests, voice }) => ({
          rung,
          text,
          ...(rests === undefined ? {} : { rests }),
          ...(voice ? { voice: { sha256: voice.sha256, seconds: voice.seconds, said: voice.said } } : {}),
        }));
        return { kind, id, market: block.market, steps };
      }
      case "calendar":
        return { kind, id, days: block.days };
      case "risk":
        return { kind, id, text: block.text };
      case "question":
        return { kind, id, asked: block.asked, answer: block.answer };
      default:
        return { kind, id };
    }
  });
  if (new Set(blocks.map(({ id }) => id)).size < blocks.length)
    throw new Failure("blocks", "Two blocks of this draft have the same id.", {
      kept: "What was saved before is kept.",
      remedy: "Reload the page.",
    });
  return blocks;
}

function wordsIn(raw: unknown): Words {
  try {
    return readWords(raw);
  } catch (error) {
    if (!(error instanceof WordsFault)) throw error;
    throw new Failure("words", error.message, {
      kept: "What was saved before is kept; the rest is still on this page.",
      remedy: "Shorten them, or go on in another block.",
    });
  }
}

/** Saves a draft unless it was published or changed elsewhere meanwhile. */
export async function saveDraft(id: string, { title, kind, blocks: dto, version }: DraftDto): Promise<Draft> {
  const blocks = plainOf(dto);
  for (const market of marketsIn(blocks)) await findMarket(market);
  const before = await Draft.findByPk(id, { raw: true });
  const [changed] = await Draft.update(
    { title, kind, blocks, version: version + 1, updatedAt: Date.now() },
    { where: { id, version, published: null } },
  );
  if (changed === 1) {
    // Saved as it is typed: what stood there before is kept once in a while, and whenever a colleague begins to write.
    await audit({
      what: "draft changed",
      subject: `draft ${id.slice(0, 8)}`,
      detail: { before: { title: before?.title, blocks: before?.blocks } },
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
