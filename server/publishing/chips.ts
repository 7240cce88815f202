import type { Block } from "#core/edition/blocks";
import { chipsRenewed, type Chip } from "#core/edition/words";
import { bandText, priceText, rungText } from "#core/marks/wording";
import { kindOf } from "#core/marks/registry";
import { partsOf } from "#core/written/parts";
import { plainOf } from "#core/written/written";
import type { Section } from "./section.ts";

/** A number that can be put into words, with the name it is found by. */
export interface ChipOption extends Chip {
  name: string;
}

/** Every number of a section that words may speak of: its price, what its live marks and its scenarios say. */
export function chipOptions({ market, marks, scenarios, bars }: Section): ChipOption[] {
  const close = bars.at(-1)?.close;
  const of = (kind: Chip["of"], id: string, part: string, text: string, name: string): ChipOption => ({
    ...{ market: market.id, of: kind, id, part, text },
    name: `${market.name}: ${name}`,
  });
  return [
    ...(close === undefined ? [] : [of("price", "", "close", priceText(close, market), "price")]),
    ...scenarios.flatMap(({ id, title, terms }) => {
      const order = terms.orders.at(0);
      const prices = [
        ["entry", order?.entry.price],
        ["stop", order?.stop],
        ...(order?.targets ?? []).map(({ price }, i) => [`target ${i + 1}`, price] as const),
        ["wrong", terms.wrong],
      ] as const;
      return prices.flatMap(([part, price]) => {
        const value = plainOf(price);
        return value === undefined ? [] : [of("scenario", id, part, priceText(value, market), `${title}, ${part}`)];
      });
    }),
    ...marks
      .filter(({ life }) => !life.dead)
      .flatMap(({ mark, life }) =>
        partsOf(mark, life).flatMap(({ part, name, value }) => {
          if (typeof value === "object" && !Array.isArray(value)) return [];
          const text = Array.isArray(value)
            ? bandText({ bottom: value[0], top: value[1] }, market)
            : priceText(value, market);
          return [of("mark", mark.id, part, text, `${rungText(mark.rung)} ${kindOf(mark).title}, ${name}`)];
        }),
      ),
  ];
}

const keyOf = ({ market, of, id, part }: Chip) => JSON.stringify([market, of, id, part]);

/** The same blocks with every chip saying what the desk says now; what is gone says what it last said. */
export function renewedBlocks(blocks: readonly Block[], sections: readonly Section[]): Block[] {
  const says = new Map(sections.flatMap(chipOptions).map((option) => [keyOf(option), option.text]));
  const renewed = (words: Parameters<typeof chipsRenewed>[0]) => chipsRenewed(words, (chip) => says.get(keyOf(chip)));
  return blocks.map((block) => {
    if (block.kind === "words") return { ...block, words: renewed(block.words) };
    return block.kind === "market" && block.words ? { ...block, words: renewed(block.words) } : block;
  });
}
