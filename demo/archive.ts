import { randomUUID } from "node:crypto";
import { emptyBlock, type Block, type EditionKind, type MarketBlock } from "#core/edition/blocks";
import { numbersPutIn } from "#core/edition/checks";
import { textOfWords, wordsOf, type TableCell, type Words } from "#core/edition/words";
import { DAY, MINUTE } from "#core/time/dates";
import { readClock } from "../server/clock.ts";
import { Draft, Edition, type Market } from "../server/database/models.ts";
import { scenariosOf } from "../server/desk/scenarios.ts";
import { advance } from "../server/intake/feed.ts";
import { argumentOf } from "../server/publishing/argument.ts";
import { chipOptions } from "../server/publishing/chips.ts";
import { keepLook } from "../server/desk/studies.ts";
import { composeSection } from "../server/publishing/section.ts";
import { beginCorrection } from "../server/publishing/corrections.ts";
import { createDraft, findDraft, saveDraft } from "../server/publishing/drafts.ts";
import { publish } from "../server/publishing/publish.ts";
import { openStandings } from "../server/watch/standing.ts";

interface Author {
  id: string;
  name: string;
}

/** Who writes: one in the morning of what is closest to something, one at the close of what moved. */
export interface Writers {
  morning: Author;
  close: Author;
}

const at = (day: number, hour: number, minute = 0) => day + (hour * 60 + minute) * MINUTE;
const nameOfDay = (day: number) => new Date(day).toLocaleDateString("en-GB", { weekday: "long", timeZone: "UTC" });

/**
 * The editions of the days between two moments, each written by rule from what the desk holds when it goes out: the
 * clock is moved there first, so that nothing of what came later can be in it. Calls are followed meanwhile.
 */
export async function keepArchive(markets: readonly Market[], writers: Writers, from: number, to: number) {
  for (const { id } of Object.values(writers)) await keepLook(id, LOOK, STUDIES);
  for (let day = Math.floor(from / DAY) * DAY + DAY; day + DAY <= to; day += DAY) {
    const weekday = new Date(day).getUTCDay();
    const isLastWeek = day + 7 * DAY > to;
    if ([1, 3, 5].includes(weekday)) {
      await goTo(at(day, 6, 30));
      await morning(markets, writers.morning, day);
      if (weekday === 3 && !isLastWeek) await slipOfThePen(writers.morning);
    }
    if (weekday === 2) {
      await goTo(at(day, 16, 30));
      await close(markets, writers.close, day);
      if (isLastWeek) await takenBack(writers.close);
    }
    if (weekday === 4 && isLastWeek) {
      await goTo(at(day, 12));
      await lesson(writers.morning);
    }
    if (weekday === 5) {
      await goTo(at(day, 17));
      await weekAhead(writers.close);
    }
  }
}

async function goTo(time: number): Promise<void> {
  const { now } = await readClock();
  if (time > now) await advance((time - now) / MINUTE);
}

/** Markets with open calls, those first that something waits on; and how many there are. */
async function called(markets: readonly Market[]): Promise<Market[]> {
  const open = await openStandings(markets.map(({ id }) => id));
  const rank = { open: 0, armed: 1, waiting: 2, done: 3 };
  const best = (id: string) => Math.min(...open.filter(({ market }) => market === id).map(({ phase }) => rank[phase]));
  return markets.filter(({ id }) => open.some(({ market }) => market === id)).sort((a, b) => best(a.id) - best(b.id));
}

/** What stands under the charts of editions, by its name among their authors' looks. */
const LOOK = "Trend and momentum";
const STUDIES = [{ study: "sma", params: { period: 50 } }, { study: "rsi" }];

/** Rungs that speak for a market; the last is that of its chart. */
const RUNGS = ["P1D", "PT4H"];

/** A market's section: what the desk says of it, and the calls on it that are open. */
async function sectionOf({ id }: Market, author: Author): Promise<MarketBlock> {
  const open = (await openStandings([id])).map(({ scenarioId }) => scenarioId);
  const argument = await argumentOf(id, author.id, RUNGS);
  const rests = argument.map(({ rung, text }) => ({ rung, text }));
  const scenarios = (await scenariosOf(id)).map(({ scenario }) => scenario.id).filter((one) => open.includes(one));
  const said = wordsOf(rests.map(({ text }) => text).join("\n\n"));
  const words = numbersPutIn(said, chipOptions(await composeSection(id, RUNGS[1], scenarios, author.id)));
  return { kind: "market", id: randomUUID(), market: id, rung: "PT4H", scenarios, words, rests, studies: LOOK };
}

async function write(
  kind: EditionKind,
  title: string,
  said: string | Words,
  blocks: readonly Block[],
  author: Author,
): Promise<number> {
  const { id } = await createDraft(author.id, { kind });
  const draft = await findDraft(id);
  const [first, ...rest] = draft.blocks;
  const notice = rest.findIndex((block) => block.kind === "risk");
  const words: Block = {
    ...(first as Extract<Block, { kind: "words" }>),
    words: typeof said === "string" ? wordsOf(said) : said,
  };
  // Read so often, the board of all markets would be most of what the making of this world takes.
  const filled = rest.slice(0, notice).filter((block) => block.kind !== "board");
  const all = [words, ...filled, ...blocks, ...rest.slice(notice)];
  await saveDraft(id, { version: draft.version, title, kind, blocks: all as never });
  return publish(id, author);
}

const callsAre = (count: number) => (count === 1 ? "One call is" : `${count} calls are`);

/** The two markets closest to something, with what is open on them. */
async function morning(markets: readonly Market[], author: Author, day: number): Promise<void> {
  const near = (await called(markets)).slice(0, 2);
  if (near.length === 0) return;
  const open = await openStandings();
  const names = near.map(({ name }) => name).join(" and ");
  const says = near.map(({ id, name }) => `${name}: ${open.find(({ market }) => market === id)?.says ?? "nothing"}.`);
  await write(
    "morning",
    `${nameOfDay(day)}: ${names} first`,
    [
      `${callsAre(open.length)} open this morning. ${names} ${near.length === 1 ? "is" : "are"} closest to something.`,
      ...says,
    ].join("\n\n"),
    await Promise.all(near.map((market) => sectionOf(market, author))),
    author,
  );
}

/** The market that moved the most that day, by its own range. */
async function close(markets: readonly Market[], author: Author, day: number): Promise<void> {
  const [market] = (await called(markets)).slice(2, 3);
  if (!market) return;
  await write(
    "close",
    `${nameOfDay(day)}'s close: what became of it, and ${market.name}`,
    "What was open and what became of it stands below, as the bars told it. One market more than this morning.",
    [await sectionOf(market, author), { kind: "counts", id: randomUUID() }, { kind: "areas", id: randomUUID() }],
    author,
  );
}

/** How a call of this desk is counted: the same questions come again and again. */
async function lesson(author: Author): Promise<void> {
  const record: Block = { kind: "record", id: randomUUID() };
  await write("lesson", "How a call is counted", LESSON, [record], author);
}

async function weekAhead(author: Author): Promise<void> {
  const { length } = await openStandings();
  const said = `${callsAre(length)} open over the weekend. What is expected, and where it all points.`;
  await write("week", "The week ahead", said, [], author);
}

/** A word in the last edition was not meant so. */
async function slipOfThePen(author: Author): Promise<void> {
  const last = await Edition.findOne({ where: { kind: "morning" }, order: [["number", "DESC"]] });
  if (!last) return;
  const { id } = await beginCorrection(last.number, "correction", author.id);
  const draft = await Draft.findByPk(id, { rejectOnEmpty: true });
  const blocks = draft.blocks.map((block): Block =>
    block.kind === "words"
      ? { ...block, words: wordsOf(textOfWords(block.words).replace("closest to", "nearest to")) }
      : block,
  );
  await saveDraft(id, { version: draft.version, title: draft.title, kind: draft.kind, blocks: blocks as never });
  await publish(id, author);
}

/** The last close is taken back: its market was not the one that was meant. Its calls are followed as they were. */
async function takenBack(author: Author): Promise<void> {
  const last = await Edition.findOne({ where: { kind: "close" }, order: [["number", "DESC"]] });
  if (!last) return;
  const { id } = await beginCorrection(last.number, "withdrawal", author.id);
  const draft = await findDraft(id);
  const words: Block = { ...emptyBlock("words", randomUUID()), kind: "words", words: wordsOf(WHY) };
  const blocks = draft.blocks.map((block) => (block.kind === "words" ? words : block));
  await saveDraft(id, { version: draft.version, title: draft.title, kind: draft.kind, blocks: blocks as never });
  await publish(id, author);
}

const rowOf = (type: TableCell["type"], ...cells: string[]) => ({
  type: "tableRow" as const,
  content: cells.map((text): TableCell => ({
    type,
    content: [{ type: "paragraph", content: [{ type: "text", text }] }],
  })),
});

const LESSON: Words = {
  type: "doc",
  content: [
    ...wordsOf(
      "A call is followed from the bars, not from memory, and what a bar leaves open is counted against it. " +
        "One R is what stands between the entry and the stop: every result is told in it, before costs.",
    ).content,
    {
      type: "table",
      content: [
        rowOf("tableHeader", "Within one bar", "What is counted"),
        rowOf("tableCell", "target and stop are both met", "the order of the two that leaves the least"),
        rowOf("tableCell", "price opens beyond the stop", "the opening price, not the stop"),
        rowOf("tableCell", "a close is asked for, a wick is there", "nothing: a wick is no close"),
        rowOf("tableCell", "where it is wrong is met before an entry", "the call is over, without a trade"),
      ],
    },
    ...wordsOf(
      "Why so strict? Because the other way round anybody looks good. What stands in the record below is told " +
        "with the interval it may lie in, and beside what chance alone would give.",
    ).content,
  ],
};

const WHY =
  "The market of this edition was read on the wrong rung. What it called goes on being followed as it was called.";
