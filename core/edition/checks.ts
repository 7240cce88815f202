import type { HorizonView } from "#core/finding/horizon";
import { marketsOf, walksOf, type Block } from "#core/edition/blocks";
import { chipsOf, inlinesChanged, textOfWords, wordsOf, type Chip, type Inline, type Words } from "#core/edition/words";
import type { LevelLine } from "#core/marks/levels";
import { canSee, seeOfNumber, type EditionPart } from "#core/edition/parts";
import { countText } from "#core/marks/wording";
import type { Written } from "#core/written/written";

/** A number of the desk with the name it is found by. */
export type NamedChip = Chip & { name: string };

/** What is held against an edition before it goes out. */
export interface EditionFacts {
  title: string;
  blocks: readonly Block[];
  /** What each plan shows. */
  plans: readonly { name: string; parts: readonly EditionPart[] }[];
  /** Of each market's section: its calls with what they pay, and the view by horizon. */
  sections: readonly {
    market: { id: string; name: string };
    scenarios: readonly Pick<Written, "title" | "terms" | "waived">[];
    rewards: readonly (number | undefined)[];
    levels: readonly Pick<LevelLine, "bottom" | "top" | "role" | "label">[];
    close: number;
    /** Its last closes as they are written, the newest last. */
    closes?: readonly string[];
    horizons: readonly HorizonView[];
  }[];
  /** Blocks that are filled by the desk and have nothing in them, by what they are called. */
  empty?: readonly string[];
  /** Every number of the desk that words may hold. */
  chips: readonly NamedChip[];
  /** Every market of the desk. */
  markets: readonly { id: string; name: string }[];
  /** What comes within the hour, by the market it touches. */
  soon: readonly { market: string; title: string; minutes: number }[];
}

/**
 * What an analyst should know before an edition goes out, each in a sentence with its number; nothing of it stops a
 * publication.
 */
export function checkEdition(facts: EditionFacts): string[] {
  return [
    ...againstView(facts),
    ...ofCalls(facts),
    ...ofLevels(facts),
    ...ofSilence(facts),
    ...ofWords(facts),
    ...ofPrices(facts),
    ...ofForm(facts),
    ...toldToAll(facts),
    ...ofReleases(facts),
    ...ofVoices(facts),
  ];
}

const AGAINST = { long: "down", short: "up" } as const;

function againstView({ sections }: EditionFacts): string[] {
  return sections.flatMap(({ market, scenarios, horizons }) =>
    scenarios.flatMap(({ title, terms: { direction } }) => {
      const against = horizons.filter((view) => view.direction === AGAINST[direction]);
      if (against.length === 0) return [];
      const views = against.map(({ horizon }) => horizon).join(" and ");
      return [`${market.name}, ${title}: a ${direction} against the ${views} view, which is ${AGAINST[direction]}.`];
    }),
  );
}

function ofCalls({ sections }: EditionFacts): string[] {
  return sections.flatMap(({ market, scenarios, rewards }) =>
    scenarios.flatMap(({ title, waived }, i) => {
      const reward = rewards[i];
      const count = Object.keys(waived).length;
      return [
        ...(reward !== undefined && reward < 1 ? [`${market.name}, ${title}: pays ${reward.toFixed(2)} : 1.`] : []),
        ...(count > 0 ? [`${market.name}, ${title}: ${countText(count, "point")} of its checklist waived.`] : []),
      ];
    }),
  );
}

/** A support above price, or a resistance below it, is no such thing any more. */
function ofLevels({ sections }: EditionFacts): string[] {
  return sections.flatMap(({ market, levels, close }) =>
    levels.flatMap(({ bottom, top, role, label }) => {
      const beyond = role === "support" ? bottom > close : role === "resistance" && top < close;
      const side = role === "support" ? "above" : "below";
      return beyond ? [`${market.name}: ${label}, a ${role}, stands ${side} price.`] : [];
    }),
  );
}

/** A market without a call says why there is none. */
function ofSilence({ blocks, sections }: EditionFacts): string[] {
  return marketsOf(blocks).flatMap(({ market, scenarios, words }) => {
    const name = sections.find((one) => one.market.id === market)?.market.name ?? market;
    if (scenarios.length > 0 || (words && textOfWords(words).trim() !== "")) return [];
    return [`${name}: no call, and no word why there is none.`];
  });
}

function wordsIn(blocks: readonly Block[]): Words[] {
  return blocks.flatMap((block) => {
    if (block.kind === "words") return [block.words];
    if (block.kind === "question") return [wordsOf(`${block.asked}\n\n${block.answer}`)];
    return block.kind === "market" && block.words ? [block.words] : [];
  });
}

/** Numbers as they are typed: digits with at least two decimals or thousands, not part of a longer one. */
const NUMBER = /(?<![\d.,])\d+(?:\.\d+)?(?![\d]|[.,]\d)/g;

/** Numbers that are typed by hand and are one of the desk's. */
function typedIn(text: string, chips: readonly NamedChip[]): { number: string; chip: NamedChip }[] {
  return [...new Set(text.match(NUMBER) ?? [])].flatMap((number) => {
    const chip = chipTyped(number, chips);
    return chip ? [{ number, chip }] : [];
  });
}

/** A whole number of one or two digits is a count or a date more often than a price. */
const chipTyped = (number: string, chips: readonly NamedChip[]): NamedChip | undefined =>
  number.length < 3 ? undefined : chips.find((one) => one.text === number);

/** What words and the title say in figures is read by whoever reads them, whatever else a plan shows. */
function toldToAll({ title, blocks, chips, plans }: EditionFacts): string[] {
  const said = [
    { where: "The title", see: "all", text: title },
    { where: "The words", see: "words", text: wordsIn(blocks).map(textOfTyped).join("\n") },
  ];
  return said.flatMap(({ where, see, text }) =>
    typedIn(text, chips).flatMap(({ number, chip }) => {
      const told = plans.filter(({ parts }) => canSee(see, parts) && !canSee(seeOfNumber(chip), parts));
      const names = told.map(({ name }) => name).join(" and ");
      return names === "" ? [] : [`${where} would tell ${number} (${chip.name}) to ${names}, who are not shown it.`];
    }),
  );
}

/** How many numbers of the desk are typed by hand in the words of an edition. */
export function typedByHand(blocks: readonly Block[], chips: readonly NamedChip[]): number {
  return typedIn(wordsIn(blocks).map(textOfTyped).join("\n"), chips).length;
}

/** The same blocks with every number of the desk that was typed by hand put in as one. */
export function withNumbersPutIn(blocks: readonly Block[], chips: readonly NamedChip[]): Block[] {
  return blocks.map((block) =>
    (block.kind === "words" || block.kind === "market") && block.words
      ? { ...block, words: numbersPutIn(block.words, chips) }
      : block,
  );
}

/** Words with every number of the desk that was typed by hand put in as one: it stays true from then on. */
export function numbersPutIn(words: Words, chips: readonly NamedChip[]): Words {
  return inlinesChanged(words, (node) => {
    if (node.type !== "text") return [node];
    const out: Inline[] = [];
    let from = 0;
    for (const found of node.text.matchAll(NUMBER)) {
      const chip = chipTyped(found[0], chips);
      if (!chip) continue;
      if (found.index > from) out.push({ ...node, text: node.text.slice(from, found.index) });
      const { name: _, ...attrs } = chip;
      out.push({ type: "chip", attrs });
      from = found.index + found[0].length;
    }
    return from < node.text.length ? [...out, { ...node, text: node.text.slice(from) }] : out;
  });
}

function ofWords({ blocks, chips, markets }: EditionFacts): string[] {
  const words = wordsIn(blocks);
  const text = words.map(textOfTyped).join("\n");
  const byHand = typedIn(text, chips).map(
    ({ number, chip }) => `${number} is typed by hand, and is ${chip.name}: put in with "/" it stays true.`,
  );
  const isKnown = (chip: Chip) =>
    chips.some(({ market, of, id, part }) =>
      [market === chip.market, of === chip.of, id === chip.id, part === chip.part].every(Boolean),
    );
  const here = new Set(marketsOf(blocks).map(({ market }) => market));
  const gone = words
    .flatMap(chipsOf)
    .filter((chip) => !isKnown(chip))
    .map(({ text: says, market }) =>
      here.has(market)
        ? `${says}: what it follows is gone from the desk; it says what that last said.`
        : `${says}: its market has no section here; it says what it last said.`,
    );
  const spoken = markets
    .filter(({ id, name }) => !here.has(id) && text.includes(name))
    .map(({ name }) => `${name} is spoken of, and has neither picture nor levels here.`);
  return [...byHand, ...gone, ...spoken];
}

/** "Price is 440.85", "price stands at 440.85". */
const AS_PRICE = /\bprice\b[^.\d\n]{0,24}?(\d+(?:\.\d+)?)/gi;

/**
 * A price that was typed and is another now. Nothing of it changes while price goes on moving: an edition that waits
 * for its time is not held by a sentence that is said anew each minute.
 */
function ofPrices({ title, blocks, sections, chips }: EditionFacts): string[] {
  const text = `${title}\n${wordsIn(blocks).map(textOfTyped).join("\n")}`;
  const numbers = new Set(text.match(NUMBER) ?? []);
  const said = new Set([...text.matchAll(AS_PRICE)].map(([, number]) => number));
  const nows = new Set(sections.map(({ closes = [] }) => closes.at(-1)));
  return [...numbers].flatMap((number) => {
    if (nows.has(number) || chips.some((one) => one.text === number)) return [];
    const of = sections.find(
      ({ close, closes = [] }) =>
        (number.includes(".") && closes.includes(number)) ||
        (said.has(number) && Math.abs(Number(number) / close - 1) < NEAR_PRICE),
    );
    if (!of) return [];
    return [
      `${number} is typed as the price of ${of.market.name}, which is another now: put in with "/" it stays true.`,
    ];
  });
}

/** As far from the last close a number may still be meant as one. */
const NEAR_PRICE = 0.2;

/** Letters of a title that a mail's list shows (common practice, no source). */
const SHOWN_OF_TITLE = 70;

function ofForm({ title, empty = [] }: EditionFacts): string[] {
  return [
    ...empty.map((name) => `${name} has nothing in it.`),
    ...(title.length > SHOWN_OF_TITLE
      ? [`The title has ${title.length} letters; lists of mails show about ${SHOWN_OF_TITLE} of them.`]
      : []),
  ];
}

/** The words without the numbers that were put in from the desk. */
function textOfTyped(words: Words): string {
  const typed = JSON.parse(JSON.stringify(words), (_key, value: unknown) =>
    typeof value === "object" && value !== null && (value as { type?: unknown }).type === "chip"
      ? { type: "text", text: " \u2026 " }
      : value,
  ) as Words;
  return textOfWords(typed);
}

function ofReleases({ soon }: EditionFacts): string[] {
  return soon.map(({ market, title, minutes }) => `${market}: ${title} in ${minutes} min.`);
}

/** What is said aloud and what stands beside it are one sentence. */
function ofVoices({ blocks, markets }: EditionFacts): string[] {
  return walksOf(blocks).flatMap(({ market, steps }) =>
    steps.flatMap(({ voice, text }, i) => {
      const name = markets.find(({ id }) => id === market)?.name ?? market;
      return voice && voice.said !== text ? [`${name}, step ${i + 1}: its sentence is not the one said aloud.`] : [];
    }),
  );
}
