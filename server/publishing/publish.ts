import { wholeWatcher } from "#core/scenarios/legs";
import type { Scenario } from "#core/scenarios/scenario";
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
import { canonicalText, sha256, sha256Bytes } from "../record/canonical.ts";
import { GENESIS } from "../record/entry.ts";
import { composeSection, PICTURE, pictureOf, publicPart, type FrozenSection, type Section } from "./section.ts";

/** What is frozen. `previous` is the digest of the edition before. */
export interface EditionContent {
  format: "even-compass-edition-2";
  number: number;
  previous: string;
  publishedAt: string;
  marketTime: string;
  /** Whose draft it was; and who published it, where that was somebody else. */
  author: string;
  publishedBy?: string;
  title: string;
  body: string;
  sections: FrozenSection[];
}

/** Editions of the first format hold whole marks, and no pictures. */
export interface FirstContent extends Omit<EditionContent, "format" | "sections"> {
  format: "even-compass-edition-1";
  sections: (Omit<Section, "scenarios"> & { scenarios: Scenario[] })[];
}

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
  section: FrozenSection;
  scenarios: readonly Written[];
  picture: DrawnPicture;
}

async function freezeAll(draft: Pick<Draft, "sections" | "accountId" | "title">): Promise<Frozen[]> {
  return Promise.all((await composeAll(draft)).map((section) => freeze(section, draft.title)));
}

async function freeze(section: Section, title: string): Promise<Frozen> {
  const { picture, view } = pictureOf(section);
  const drawn = await drawPicture(picture, view, PICTURE, `${section.market.name}, ${section.rung}: ${title.trim()}`);
  const digests = { svg: sha256(drawn.svg), png: sha256Bytes(drawn.png) };
  return { section: { ...publicPart(section), picture: digests }, scenarios: section.scenarios, picture: drawn };
}

const ATTEMPTS = 8;
const UNLOCKED = 2;

export function composeAll(draft: Pick<Draft, "sections" | "accountId">): Promise<Section[]> {
  return Promise.all(
    draft.sections.map((section) =>
      composeSection(section.market, section.rung, section.scenarios, draft.accountId, section.counts),
    ),
  );
}

function checkPublishable({ title, body }: Draft, sections: readonly Frozen[], now: number): void {
  const fields: Record<string, string> = {};
  if (title.trim() === "") fields.title = "An outlook needs a title.";
  if (body.trim() === "") fields.body = "An outlook needs some words.";
  if (sections.length === 0) fields.sections = "An outlook needs the section of at least one market.";
  for (const {
    section: { market },
    scenarios,
  } of sections)
    for (const scenario of scenarios) {
      const fault = checkWritten(scenario, { market, now }).find(({ severity }) => severity === "fault");
      if (fault) fields.sections = `${market.name}, ${scenario.title}: ${fault.sentence}`;
    }
  for (const [name, set] of setsOf(sections)) {
    const problem = setProblem(set);
    if (problem) fields.sections ??= `${name}: ${problem}`;
  }
  if (Object.keys(fields).length > 0)
    throw new Failure("incomplete", Object.values(fields)[0], {
      kept: "The draft is saved; nothing was published.",
      fields,
    });
}

/** The scenarios of each market, however many sections it has: readers take them for one set. */
function setsOf(sections: readonly Frozen[]): Map<string, Written[]> {
  const sets = new Map<string, Map<string, Written>>();
  for (const { section, scenarios } of sections) {
    const set = sets.get(section.market.name) ?? new Map<string, Written>();
    for (const scenario of scenarios) set.set(scenario.id, scenario);
    sets.set(section.market.name, set);
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
    for (const id of [...new Set(draft.sections.map(({ market }) => market))].sort()) {
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
      format: "even-compass-edition-2",
      number,
      previous: last?.sha256 ?? GENESIS,
      publishedAt: new Date(publishedAt).toISOString(),
      marketTime: new Date(now).toISOString(),
      author: author.name,
      ...(publisher.id === author.id ? {} : { publishedBy: publisher.name }),
      title: held.title.trim(),
      body: held.body,
      sections: frozen.map(({ section }) => section),
    };
    const canonical = canonicalText(content);
    const digest = sha256(canonical);
    await Edition.create(
      {
        number,
        draftId: held.id,
        title: content.title,
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
  const own = frozen.filter(({ section }) => section.market.id === market.id).flatMap(({ scenarios }) => scenarios);
  const once = new Map(own.map((scenario) => [scenario.id, scenario]));
  const watchers = [...once.values()].map((scenario) => ({
    kind: "scenario" as const,
    subject: subjectOf(edition, scenario.id),
    start: wholeWatcher(termsOfWritten(scenario), factsOfWatch(market, now)).start,
  }));
  if (watchers.length > 0) await beginToWatch(market, watchers, now, transaction);
}
