import type { HorizonView } from "#core/finding/horizon";
import { marketsOf, type Block } from "#core/edition/blocks";
import { chipsOf, textOfWords, type Chip, type Words } from "#core/edition/words";
import { countText } from "#core/marks/wording";
import type { Written } from "#core/written/written";

/** What is held against an edition before it goes out. */
export interface EditionFacts {
  blocks: readonly Block[];
  /** Of each market's section: its calls with what they pay, and the view by horizon. */
  sections: readonly {
    market: { id: string; name: string };
    scenarios: readonly Pick<Written, "title" | "terms" | "waived">[];
    rewards: readonly (number | undefined)[];
    horizons: readonly HorizonView[];
  }[];
  /** Every number of the desk that words may hold. */
  chips: readonly (Chip & { name: string })[];
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
  return [...againstView(facts), ...ofCalls(facts), ...ofSilence(facts), ...ofWords(facts), ...ofReleases(facts)];
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

/** A market without a call says why there is none. */
function ofSilence({ blocks, sections }: EditionFacts): string[] {
  return marketsOf(blocks).flatMap(({ market, scenarios, words }) => {
    const name = sections.find((one) => one.market.id === market)?.market.name ?? market;
    if (scenarios.length > 0 || (words && textOfWords(words).trim() !== "")) return [];
    return [`${name}: no call, and no word why there is none.`];
  });
}

function wordsIn(blocks: readonly Block[]): Words[] {
  return blocks.flatMap((block) =>
    block.kind === "words" ? [block.words] : block.kind === "market" && block.words ? [block.words] : [],
  );
}

/** Numbers as they are typed: digits with at least two decimals or thousands, not part of a longer one. */
const NUMBER = /(?<![\d.,])\d+(?:\.\d+)?(?![\d]|[.,]\d)/g;

function ofWords({ blocks, chips, markets }: EditionFacts): string[] {
  const words = wordsIn(blocks);
  const text = words.map(textOfTyped).join("\n");
  const typed = new Set(text.match(NUMBER) ?? []);
  const byHand = [...typed].flatMap((number) => {
    // A whole number of one or two digits is a count or a date more often than a price.
    if (number.length < 3) return [];
    const found = chips.find((one) => one.text === number);
    return found ? [`${number} is typed by hand, and is ${found.name}: put in with "/" it stays true.`] : [];
  });
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
