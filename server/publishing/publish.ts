import { wholeWatcher } from "#core/scenarios/legs";
import { marketsOf, type EditionKind, type MarketBlock } from "#core/edition/blocks";
import { changesOf } from "#core/edition/changes";
import { levelsOf } from "#core/marks/levels";
import { textOfWords } from "#core/edition/words";
import { checkWritten } from "#core/written/check";
import { setProblem } from "#core/written/sets";
import { termsOfWritten } from "#core/written/read";
import type { Written } from "#core/written/written";
import type { Transaction } from "sequelize";
import { readClock } from "../clock.ts";
import { subjectOf } from "../record/subject.ts";
import { factsOfWatch } from "../watch/scenarios.ts";
import { beginToWatch } from "../watch/tell.ts";
import { lockMarket } from "../bars/markets.ts";
import { isDuplicate, transact } from "../database/connection.ts";
import { Draft, Edition, EditionPicture, type Market } from "../database/models.ts";
import { Failure } from "../failure.ts";
import { findDraft } from "./drafts.ts";
import { nameOf } from "../accounts/accounts.ts";
import { audit } from "../audit/audit.ts";
import { drawPicture, type DrawnPicture } from "../pictures/pictures.ts";
import { appendToRecord } from "../record/append.ts";
import { sha256, sha256Bytes } from "../record/canonical.ts";
import { GENESIS } from "../record/entry.ts";
import { cutLeaves, rootOfLeaves, textOfLeaves } from "../record/leaves.ts";
import { cutsOf, type EditionContent, type FrozenBlock } from "./content.ts";
import { renewedBlocks } from "./chips.ts";
import { isSmall, wordsText } from "./corrections.ts";
import { findEdition } from "./editions.ts";
import { filledBlock } from "./filled.ts";
import { lastSaid, type Said } from "./lastSaid.ts";
import { composeSection, PICTURE, pictureOf, publicPart, type FrozenSection, type Section } from "./section.ts";

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
      const composed = attempt <= UNLOCKED ? await freezeAll(draft) : undefined;
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

/** A section frozen, with its picture in both forms. */
interface Frozen {
  of: Section;
  section: FrozenSection;
  picture: DrawnPicture;
}

async function freezeAll(draft: Pick<Draft, "blocks" | "accountId" | "title">): Promise<Frozen[]> {
  return Promise.all((await composeAll(draft)).map((section) => freeze(section, draft.title)));
}

async function freeze(section: Section, title: string): Promise<Frozen> {
  const { picture, view } = pictureOf(section);
  const drawn = await drawPicture(picture, view, PICTURE, `${section.market.name}, ${section.rung}: ${title.trim()}`);
  const digests = { svg: sha256(drawn.svg), png: sha256Bytes(drawn.png) };
  return { of: section, section: { ...publicPart(section), picture: digests }, picture: drawn };
}

const ATTEMPTS = 8;
const UNLOCKED = 2;

/** The sections of a draft's markets, in their order. */
export function composeAll(draft: Pick<Draft, "blocks" | "accountId">): Promise<Section[]> {
  return Promise.all(
    marketsOf(draft.blocks).map(({ market, rung, scenarios, counts }) =>
      composeSection(market, rung, scenarios, draft.accountId, counts),
    ),
  );
}

/** Kinds of edition that may speak of no market of their own. */
const OF_NONE: readonly EditionKind[] = ["lesson", "week"];

function checkPublishable({ title, kind, blocks, corrects }: Draft, sections: readonly Frozen[], now: number): void {
  const fields: Record<string, string> = {};
  if (title.trim() === "") fields.title = "An outlook needs a title.";
  const words = blocks.flatMap((one) => (one.kind === "words" ? [textOfWords(one.words)] : []));
  if (!words.some((text) => text.trim() !== "")) fields.words = "An outlook needs some words.";
  if (!blocks.some((one) => one.kind === "risk" && one.text.trim() !== ""))
    fields.risk = "An outlook needs its risk notice.";
  if (sections.length === 0 && !corrects && !OF_NONE.includes(kind))
    fields.markets = "An outlook needs the section of at least one market.";
  for (const { of } of sections)
    for (const scenario of of.scenarios) {
      const fault = checkWritten(scenario, { market: of.market, now }).find(({ severity }) => severity === "fault");
      if (fault) fields.markets = `${of.market.name}, ${scenario.title}: ${fault.sentence}`;
    }
  for (const [name, set] of setsOf(sections)) {
    const problem = setProblem(set);
    if (problem) fields.markets ??= `${name}: ${problem}`;
  }
  if (Object.keys(fields).length > 0)
    throw new Failure("incomplete", Object.values(fields)[0], {
      kept: "The draft is saved; nothing was published.",
      fields,
    });
}

/** A market's block, with what changed since the edition that last had it; in sentences. */
function marketBlock({ words }: MarketBlock, { of, section }: Frozen, before: Said | undefined): FrozenBlock {
  const live = levelsOf(of.marks, of.bars.at(-1)?.close ?? NaN);
  return {
    kind: "market",
    section,
    ...(words && words.content.length > 0 ? { words } : {}),
    ...(before ? { changed: changesOf(before, section, live, section.market) } : {}),
  };
}

/** Which edition it corrects, and whether that is a slip of the pen. */
async function correctionIn({ corrects, blocks }: Draft): Promise<Pick<EditionContent, "corrects">> {
  if (!corrects) return {};
  const { content } = await findEdition(String(corrects.number));
  const after = wordsText({ blocks: blocks.filter((one) => one.kind === "words") });
  const small = corrects.how === "correction" && isSmall(wordsText(content), after);
  return { corrects: { ...corrects, ...(small ? { small: true as const } : {}) } };
}

/** What stands in the edition, block by block. */
async function freezeBlocks(held: Draft, frozen: readonly Frozen[], now: number): Promise<FrozenBlock[]> {
  const left = [...frozen];
  const said = await lastSaid([...new Set(frozen.map(({ section }) => section.market.id))]);
  const composed = frozen.map(({ of }) => of);
  const filling = { sections: composed, accountId: held.accountId, now };
  const blocks: FrozenBlock[] = [];
  for (const block of renewedBlocks(held.blocks, composed)) {
    if (block.kind === "words") blocks.push({ kind: "words", words: block.words });
    else if (block.kind === "risk") blocks.push({ kind: "risk", text: block.text });
    else if (block.kind === "market") {
      const own = left.shift();
      if (own) blocks.push(marketBlock(block, own, said.get(own.section.market.id)));
    } else {
      const filled = await filledBlock(block, filling);
      if (filled) blocks.push(filled);
    }
  }
  return blocks;
}

/** The scenarios of each market, however many sections it has: readers take them for one set. */
function setsOf(sections: readonly Frozen[]): Map<string, Written[]> {
  const sets = new Map<string, Map<string, Written>>();
  for (const { of } of sections) {
    const set = sets.get(of.market.name) ?? new Map<string, Written>();
    for (const scenario of of.scenarios) set.set(scenario.id, scenario);
    sets.set(of.market.name, set);
  }
  return new Map([...sets].map(([name, set]) => [name, [...set.values()]]));
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
    for (const id of [...new Set(marketsOf(draft.blocks).map(({ market }) => market))].sort()) {
      const market = await lockMarket(id, transaction);
      if (composed?.some(({ section }) => section.market.id === id && section.revision !== market.revision))
        return undefined;
      markets.push(market);
    }
    const frozen = composed ?? (await freezeAll(draft));
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
    checkPublishable(held, frozen, now);
    const last = await Edition.findOne({
      order: [["number", "DESC"]],
      attributes: ["number", "sha256"],
      transaction,
      lock: transaction.LOCK.UPDATE,
    });
    const number = (last?.number ?? 0) + 1;
    const publishedAt = Date.now();
    const content: EditionContent = {
      number,
      previous: last?.sha256 ?? GENESIS,
      kind: held.kind,
      publishedAt: new Date(publishedAt).toISOString(),
      marketTime: new Date(now).toISOString(),
      author: author.name,
      ...(publisher.id === author.id ? {} : { publishedBy: publisher.name }),
      title: held.title.trim(),
      ...(await correctionIn(held)),
      blocks: await freezeBlocks(held, frozen, now),
    };
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
      },
      { transaction },
    );
    await EditionPicture.bulkCreate(
      frozen.map(({ picture: { svg, png } }, section) => ({
        edition: number,
        section,
        svg: Buffer.from(svg),
        png: Buffer.from(png),
      })),
      { transaction },
    );
    for (const market of markets) await follow(market, number, frozen, now, transaction);
    await appendToRecord([{ kind: "edition", edition: number, scenarioId: "", sequence: 0, digest }], transaction);
    await held.update({ published: number }, { transaction });
    await audit({
      what: "published",
      subject: `edition ${number}, ${content.title}`,
      by: publisher,
      ...(publisher.id === author.id ? {} : { detail: { draftOf: author.name } }),
    });
    return number;
  });
}

/** Hands the scenarios on a market to whoever watches it; one that stands in two sections, beside two charts, once. */
async function follow(
  market: Market,
  edition: number,
  frozen: readonly Frozen[],
  now: number,
  transaction: Transaction,
): Promise<void> {
  const own = frozen.filter(({ section }) => section.market.id === market.id).flatMap(({ of }) => of.scenarios);
  const once = new Map(own.map((scenario) => [scenario.id, scenario]));
  const watchers = [...once.values()].map((scenario) => ({
    kind: "scenario" as const,
    subject: subjectOf(edition, scenario.id),
    start: wholeWatcher(termsOfWritten(scenario), factsOfWatch(market, now)).start,
  }));
  if (watchers.length > 0) await beginToWatch(market, watchers, now, transaction);
}
