import { wholeWatcher } from "#core/scenarios/legs";
import { marketsIn } from "#core/edition/blocks";
import { lastClose } from "#core/readers/wait";
import { termsOfFrozen } from "#core/written/read";
import type { Transaction } from "sequelize";
import { nameOf } from "../accounts/accounts.ts";
import { audit } from "../audit/audit.ts";
import { calendarOf, lockMarket } from "../bars/markets.ts";
import { readClock } from "../clock.ts";
import { isDuplicate, transact } from "../database/connection.ts";
import { Draft, Edition, type Market } from "../database/models.ts";
import { Failure } from "../failure.ts";
import { announce } from "../outbox/outbox.ts";
import { appendToRecord } from "../record/append.ts";
import { GENESIS } from "../record/entry.ts";
import { cutLeaves, rootOfLeaves, textOfLeaves } from "../record/leaves.ts";
import { subjectOf } from "../record/subject.ts";
import { factsOfWatch } from "../watch/scenarios.ts";
import { beginCalls } from "../watch/calls.ts";
import type { EditionContent } from "./content.ts";
import { isSmall, wordsText } from "./corrections.ts";
import { carriedOn } from "./carriedOn.ts";
import { cutsOf, published } from "./cuts.ts";
import { findDraft } from "./drafts.ts";
import { findEdition } from "./editions.ts";
import { makeFindable } from "./findable.ts";
import { freezeAll, freezeBlocks, type Frozen } from "./freeze.ts";
import { storePictures } from "./pictures.ts";
import { listPlans } from "../accounts/plans.ts";
import { checkPublishable } from "./publishable.ts";
import { checkRead } from "./reading.ts";
import { checkVoices } from "./voices.ts";

export interface Author {
  id: string;
  name: string;
}

/**
 * Publishes a draft: what readers are shown of it, the bars drawn and the scenarios are frozen, hashed, entered in the
 * record, and the scenarios handed to the follower, all in one transaction. A crash leaves the whole edition or none.
 * Another's draft is published only by who says that it is one (`another`).
 */
export async function publish(draftId: string, publisher: Author, { another = false } = {}): Promise<number> {
  for (let attempt = 1; ; attempt++) {
    const draft = await findDraft(draftId);
    if (draft.published !== null) return draft.published;
    const author = await authorOf(draft, publisher, another);
    try {
      // Composed and drawn before anything is locked; should the market not stand still for that, under the lock.
      const composed = attempt <= UNLOCKED ? await freezeAll(draft, await plansShown()) : undefined;
      const number = await commit(draft, composed, { author, publisher });
      if (number !== undefined) return number;
    } catch (error) {
      // Another edition took the number first; the next one is tried.
      if (!isDuplicate(error) || attempt === ATTEMPTS) throw error;
    }
  }
}

async function authorOf({ accountId }: Draft, publisher: Author, another: boolean): Promise<Author> {
  if (accountId === publisher.id) return publisher;
  const author = { id: accountId, name: await nameOf(accountId) };
  if (!another)
    throw new Failure("another", `This draft is ${author.name}'s.`, {
      status: 409,
      kept: "Nothing was published.",
      remedy: "Say that you publish a colleague's draft, if that is what you mean.",
    });
  return author;
}

const ATTEMPTS = 8;
const UNLOCKED = 2;

/** What each plan shows: pictures are drawn for every one of them. */
const plansShown = async () => (await listPlans()).map(({ parts }) => parts);

/** Which edition it corrects, and whether that is a slip of the pen. */
async function correctionIn({ corrects, blocks }: Draft): Promise<Pick<EditionContent, "corrects">> {
  if (!corrects) return {};
  const { content } = await findEdition(String(corrects.number));
  const after = wordsText({ blocks: blocks.filter((one) => one.kind === "words") });
  const small = corrects.how === "correction" && isSmall(wordsText(content), after);
  return { corrects: { ...corrects, ...(small ? { small: true as const } : {}) } };
}

/** Stores a frozen draft; `undefined` when a market got other bars since its sections were composed. */
function commit(
  draft: Draft,
  composed: Frozen[] | undefined,
  { author, publisher }: { author: Author; publisher: Author },
): Promise<number | undefined> {
  return transact(async (transaction) => {
    // Held until the end, so that the scenarios are followed from the very next bar after those that are frozen.
    const markets: Market[] = [];
    for (const id of marketsIn(draft.blocks).sort()) {
      const market = await lockMarket(id, transaction);
      if (composed?.some(({ section }) => section.market.id === id && section.revision !== market.revision))
        return undefined;
      markets.push(market);
    }
    const frozen = await carriedOn(composed ?? (await freezeAll(draft, await plansShown())), transaction);
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
    checkPublishable(
      held,
      frozen.map(({ of }) => of),
      now,
    );
    await checkRead(held);
    await checkVoices(held);
    const last = await Edition.findOne({
      order: [["number", "DESC"]],
      attributes: ["number", "sha256"],
      transaction,
      lock: transaction.LOCK.UPDATE,
    });
    const number = (last?.number ?? 0) + 1;
    const publishedAt = Date.now();
    const closesAt = lastClose(markets.map(calendarOf), publishedAt);
    const content = published({
      number,
      previous: last?.sha256 ?? GENESIS,
      kind: held.kind,
      publishedAt: new Date(publishedAt).toISOString(),
      marketTime: new Date(now).toISOString(),
      closesAt: new Date(closesAt).toISOString(),
      author: author.name,
      ...(publisher.id === author.id ? {} : { publishedBy: publisher.name }),
      title: held.title.trim(),
      ...(await correctionIn(held)),
      blocks: await freezeBlocks(held, frozen, now),
    });
    const leaves = cutLeaves(content, cutsOf(content));
    const canonical = textOfLeaves(leaves);
    const digest = rootOfLeaves(leaves);
    await Edition.create(
      {
        number,
        draftId: held.id,
        title: content.title,
        kind: content.kind,
        corrects: content.corrects?.number ?? null,
        canonical,
        sha256: digest,
        previousSha256: content.previous,
        publishedAt,
        closesAt,
      },
      { transaction },
    );
    await makeFindable(number, content, leaves, transaction);
    await storePictures(
      number,
      frozen.map(({ pictures }) => pictures),
      transaction,
    );
    await appendToRecord([{ kind: "edition", edition: number, scenarioId: "", sequence: 0, digest }], transaction);
    // Behind the edition in the record: what is followed is read from there.
    for (const market of markets) await follow(market, number, frozen, now, transaction);
    await announce([{ kind: "edition", name: `edition ${number}`, what: { edition: number } }], transaction);
    await held.update({ published: number, goesOut: null }, { transaction });
    await audit({
      what: "published",
      subject: `edition ${number}, ${content.title}`,
      by: publisher,
      ...(publisher.id === author.id ? {} : { detail: { draftOf: author.name } }),
    });
    return number;
  });
}

/**
 * Hands the scenarios on a market to whoever watches it; one that stands in two sections, beside two charts, once, and
 * one that is followed already goes on.
 */
async function follow(
  market: Market,
  edition: number,
  frozen: readonly Frozen[],
  now: number,
  transaction: Transaction,
): Promise<void> {
  const own = frozen
    .filter(({ section }) => section.market.id === market.id)
    .flatMap(({ section }) => section.scenarios);
  const once = new Map(own.filter((one) => !("calledIn" in one)).map((scenario) => [scenario.id, scenario]));
  const watchers = [...once.values()].map((scenario) => ({
    subject: subjectOf(edition, scenario.id),
    start: wholeWatcher(termsOfFrozen(scenario), factsOfWatch(market, now)).start,
  }));
  if (watchers.length > 0) await beginCalls(market, watchers, now, transaction);
}
