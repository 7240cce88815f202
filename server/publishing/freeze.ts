import { marketsOf, type MarketBlock } from "#core/edition/blocks";
import { changesOf } from "#core/edition/changes";
import type { EditionPart } from "#core/edition/parts";
import { levelsOf } from "#core/marks/levels";
import { nameOf } from "../accounts/accounts.ts";
import { readClock } from "../clock.ts";
import { Edition, type Draft } from "../database/models.ts";
import { GENESIS } from "../record/entry.ts";
import { renewedBlocks } from "./chips.ts";
import type { EditionContent, FrozenBlock } from "./content.ts";
import { filledBlock } from "./filled.ts";
import { lastSaid, type Said } from "./lastSaid.ts";
import { drawAll, type NamedPicture } from "./pictures.ts";
import { composeSection, publicPart, type FrozenSection, type Section } from "./section.ts";

/** A section frozen, with its pictures. */
export interface Frozen {
  of: Section;
  section: FrozenSection;
  pictures: NamedPicture[];
}

/** Composes and draws the sections of a draft, as every plan shows them. */
export async function freezeAll(
  draft: Pick<Draft, "blocks" | "accountId" | "title">,
  plans: readonly (readonly EditionPart[])[],
): Promise<Frozen[]> {
  return Promise.all((await composeAll(draft)).map((section) => freeze(section, plans, draft.title)));
}

async function freeze(of: Section, plans: readonly (readonly EditionPart[])[], title: string): Promise<Frozen> {
  const pictures = await drawAll(of, plans, title);
  const digests = Object.fromEntries(pictures.map(({ view, digests: own }) => [view, own]));
  return { of, section: { ...publicPart(of), pictures: digests }, pictures };
}

/** What an edition would be, were it published now; without pictures. */
export async function wouldBe(draft: Draft): Promise<EditionContent> {
  const frozen = (await composeAll(draft)).map((of): Frozen => ({
    of,
    section: { ...publicPart(of), pictures: {} },
    pictures: [],
  }));
  const { now } = await readClock();
  const last = await Edition.max<number | null, Edition>("number");
  return {
    number: (last ?? 0) + 1,
    previous: GENESIS,
    kind: draft.kind,
    publishedAt: new Date().toISOString(),
    marketTime: new Date(now).toISOString(),
    author: await nameOf(draft.accountId),
    title: draft.title.trim(),
    ...(draft.corrects ? { corrects: draft.corrects } : {}),
    blocks: await freezeBlocks(draft, frozen, now),
  };
}

/** The sections of a draft's markets, in their order. */
export function composeAll(draft: Pick<Draft, "blocks" | "accountId">): Promise<Section[]> {
  return Promise.all(
    marketsOf(draft.blocks).map(({ market, rung, scenarios, counts }) =>
      composeSection(market, rung, scenarios, draft.accountId, counts),
    ),
  );
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

/** What stands in the edition, block by block. */
export async function freezeBlocks(held: Draft, frozen: readonly Frozen[], now: number): Promise<FrozenBlock[]> {
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
