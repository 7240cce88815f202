import { WAITING } from "#core/scenarios/follow";
import { checkPlan } from "#core/scenarios/scenario";
import { readClock } from "../feed/clock.ts";
import { lockMarket } from "../bars/markets.ts";
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
  for (let attempt = 1; ; attempt++) {
    const draft = await findDraft(draftId);
    if (draft.published !== null) return draft.published;
    try {
      // Composed before anything is locked; should the market not stand still for that, under the lock.
      const composed = attempt <= UNLOCKED ? await composeAll(draft) : undefined;
      const number = await commit(draft, composed, author);
      if (number !== undefined) return number;
    } catch (error) {
      // Another edition took the number first; the next one is tried.
      if (!isDuplicate(error) || attempt === ATTEMPTS) throw error;
    }
  }
}

const ATTEMPTS = 8;
const UNLOCKED = 2;

export function composeAll(draft: Pick<Draft, "sections" | "accountId">): Promise<Section[]> {
  return Promise.all(draft.sections.map((section) => composeSection(section.market, section.rung, section.scenarios, draft.accountId, section.counts)));
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

/** Freezes a draft; `undefined` when a market got other bars since its sections were composed. */
function commit(draft: Draft, composed: Section[] | undefined, author: Author): Promise<number | undefined> {
  return transact(async (transaction) => {
    // Held until the end, so that the plans are followed from the very next bar after those that are frozen.
    for (const id of [...new Set(draft.sections.map(({ market }) => market))].sort()) {
      const { revision: held } = await lockMarket(id, transaction);
      if (composed?.some(({ market, revision }) => market.id === id && revision !== held)) return undefined;
    }
    const sections = composed ?? (await composeAll(draft));
    const { now } = await readClock();
    const held = await Draft.findByPk(draft.id, { transaction, lock: transaction.LOCK.UPDATE });
    if (!held) throw new Failure("gone", "The draft has been removed.", { status: 404 });
    if (held.published !== null) return held.published;
    if (held.version !== draft.version)
      throw new Failure("stale", "The draft was changed while it was being published.", {
        status: 409,
        kept: "Nothing was published.",
        remedy: "Read it once more and publish again.",
      });
    checkPublishable(held, sections, now);
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
    // A plan may stand in two sections, beside two charts; it is followed once.
    const plans = new Map(sections.flatMap(({ market, scenarios }) => scenarios.map((plan) => [plan.id, { plan, marketId: market.id }])));
    for (const { plan, marketId } of plans.values())
      await FollowedPlan.create(
        { edition: number, scenarioId: plan.id, marketId, plan, state: WAITING, since: now, lastTime: now, done: false },
        { transaction },
      );
    await held.update({ published: number }, { transaction });
    return number;
  });
}
