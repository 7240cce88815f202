import { WAITING } from "#core/scenarios/follow";
import { checkPlan } from "#core/scenarios/scenario";
import { readClock } from "../feed/clock.ts";
import { findMarket } from "../bars/markets.ts";
import { isDuplicate, transact } from "../database/connection.ts";
import { Draft, Edition, FollowedPlan } from "../database/models.ts";
import { Failure } from "../failure.ts";
import { findDraft } from "./drafts.ts";
import { canonicalText, GENESIS, sha256 } from "./freeze.ts";
import { composeSection, type Section } from "./section.ts";

/** What is frozen. `previous` chains it to the edition before. */
export interface EditionContent {
  format: "even-compass-edition-1";
  number: number;
  previous: string;
  publishedAt: string;
  marketTime: string;
  author: string;
  title: string;
  body: string;
  sections: Section[];
}

export interface Author {
  id: string;
  name: string;
}

/**
 * Publishes a draft: its content, the bars drawn, the marks and the plans are frozen, hashed and chained, and the
 * plans handed to the follower, all in one transaction. A crash leaves the whole edition or none.
 */
export async function publish(draftId: string, author: Author): Promise<number> {
  const draft = await findDraft(draftId);
  if (draft.published !== null) return draft.published;
  const sections = await composeAll(draft);
  const { now } = await readClock();
  checkPublishable(draft, sections, now);
  for (let attempt = 1; ; attempt++) {
    try {
      return await commit(draft, sections, author, now);
    } catch (error) {
      // Another edition took the number first; the next one is tried.
      if (!isDuplicate(error) || attempt === 5) throw error;
    }
  }
}

export function composeAll(draft: Pick<Draft, "sections">): Promise<Section[]> {
  return Promise.all(draft.sections.map(({ market, rung, scenarios }) => composeSection(market, rung, scenarios)));
}

function checkPublishable({ title, body }: Draft, sections: readonly Section[], now: number): void {
  const fields: Record<string, string> = {};
  if (title.trim() === "") fields.title = "An outlook needs a title.";
  if (body.trim() === "") fields.body = "An outlook needs some words.";
  if (sections.length === 0) fields.sections = "An outlook needs the section of at least one market.";
  for (const { market, scenarios } of sections)
    for (const plan of scenarios) {
      const fault = checkPlan(plan, now).find(({ severity }) => severity === "fault");
      if (fault) fields.sections = `${market.name}, ${plan.title}: ${fault.sentence}`;
    }
  if (Object.keys(fields).length > 0)
    throw new Failure("incomplete", Object.values(fields)[0], { kept: "The draft is saved; nothing was published.", fields });
}

function commit(draft: Draft, sections: Section[], author: Author, now: number): Promise<number> {
  return transact(async (transaction) => {
    const held = await Draft.findByPk(draft.id, { transaction, lock: transaction.LOCK.UPDATE });
    if (!held) throw new Failure("gone", "The draft has been removed.", { status: 404 });
    if (held.published !== null) return held.published;
    if (held.version !== draft.version)
      throw new Failure("stale", "The draft was changed while it was being published.", {
        status: 409,
        kept: "Nothing was published.",
        remedy: "Read it once more and publish again.",
      });
    const last = await Edition.findOne({ order: [["number", "DESC"]], transaction, lock: transaction.LOCK.UPDATE });
    const number = (last?.number ?? 0) + 1;
    const publishedAt = Date.now();
    const content: EditionContent = {
      format: "even-compass-edition-1",
      number,
      previous: last?.sha256 ?? GENESIS,
      publishedAt: new Date(publishedAt).toISOString(),
      marketTime: new Date(now).toISOString(),
      author: author.name,
      title: held.title.trim(),
      body: held.body,
      sections,
    };
    const canonical = canonicalText(content);
    await Edition.create(
      {
        number,
        draftId: held.id,
        title: content.title,
        canonical,
        sha256: sha256(canonical),
        previousSha256: content.previous,
        publishedAt,
      },
      { transaction },
    );
    for (const { market, scenarios } of sections)
      for (const plan of scenarios) {
        await findMarket(market.id, transaction);
        await FollowedPlan.create(
          { edition: number, scenarioId: plan.id, marketId: market.id, plan, state: WAITING, lastTime: now, done: false },
          { transaction },
        );
      }
    await held.update({ published: number }, { transaction });
    return number;
  });
}
