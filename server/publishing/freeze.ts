import { marketsIn, marketsOf, walksOf, type Block, type MarketBlock, type SpokenStep } from "#core/edition/blocks";
import { changesOf } from "#core/edition/changes";
import type { EditionPart } from "#core/edition/parts";
import { levelsOf } from "#core/marks/levels";
import { nameOf } from "../accounts/accounts.ts";
import { readClock } from "../clock.ts";
import { Edition, type Draft } from "../database/models.ts";
import { GENESIS } from "../record/entry.ts";
import { renewedBlocks } from "./chips.ts";
import type { EditionContent, FrozenBlock, FrozenStep } from "./content.ts";
import { published } from "./cuts.ts";
import { filledBlock } from "./filled.ts";
import { lastSaid, type Said } from "./lastSaid.ts";
import { drawAll, type NamedPicture } from "./pictures.ts";
import { composeSection, publicPart, type FrozenSection, type Section } from "./section.ts";

/** A section frozen, with its pictures. */
export interface Frozen {
  of: Section;
  section: FrozenSection;
  pictures: NamedPicture[];
  /** The step of a walk it is, and not a market's section. */
  walk?: Pick<FrozenStep, "text" | "voice"> & { block: string };
}

/** What is drawn for an edition: the sections of its markets in their order, and behind them the steps of its walks. */
interface Drawn {
  of: Section;
  walk?: Frozen["walk"];
}

/** A chart of a draft before it is composed. */
type ChartAsk = Pick<MarketBlock, "market" | "rung" | "scenarios" | "counts" | "studies"> & Pick<Frozen, "walk">;

/** The charts of a draft, numbered as its pictures are. */
function chartsAsked(blocks: readonly Block[]): ChartAsk[] {
  const markets = marketsOf(blocks);
  const steps = walksOf(blocks).flatMap(({ id, market, steps: own }) => {
    // The calls of the edition on a market are drawn where its walk ends.
    const called = markets.filter((one) => one.market === market).flatMap(({ scenarios }) => scenarios);
    return own.map(({ rung, text, voice }, i): ChartAsk => ({
      ...{ market, rung, walk: { block: id, text, ...(voice ? { voice: spokenIn(voice) } : {}) } },
      scenarios: i === own.length - 1 ? called : [],
    }));
  });
  return [...markets, ...steps];
}

const spokenIn = ({ sha256, seconds }: SpokenStep) => ({ sha256, seconds });

async function compose({ market, rung, scenarios, walk, ...asked }: ChartAsk, accountId: string): Promise<Drawn> {
  const of = await composeSection(market, rung, scenarios, accountId, asked);
  return walk ? { of, walk } : { of };
}

function drawnIn({ blocks, accountId }: Pick<Draft, "blocks" | "accountId">): Promise<Drawn[]> {
  return Promise.all(chartsAsked(blocks).map((ask) => compose(ask, accountId)));
}

/** One chart of a draft, by its number; `undefined` where there is none. */
export async function composeChart(
  { blocks, accountId }: Pick<Draft, "blocks" | "accountId">,
  number: number,
): Promise<Section | undefined> {
  const ask = chartsAsked(blocks).at(number);
  return ask && number >= 0 ? (await compose(ask, accountId)).of : undefined;
}

/** Composes and draws the sections of a draft, as every plan shows them. */
export async function freezeAll(
  draft: Pick<Draft, "blocks" | "accountId" | "title">,
  plans: readonly (readonly EditionPart[])[],
): Promise<Frozen[]> {
  return Promise.all((await drawnIn(draft)).map((one) => freeze(one, plans, draft.title)));
}

async function freeze(drawn: Drawn, plans: readonly (readonly EditionPart[])[], title: string): Promise<Frozen> {
  return frozenAs(drawn, await drawAll(drawn.of, plans, title));
}

/** A step of a walk holds its picture alone: levels and calls stand with the market. */
function frozenAs({ of, walk }: Drawn, pictures: NamedPicture[]): Frozen {
  const digests = Object.fromEntries(pictures.map(({ view, digests: own }) => [view, own]));
  const section = { ...publicPart(of), pictures: digests };
  if (!walk) return { of, section, pictures };
  const { horizons: _, ...chart } = section;
  return { of, section: { ...chart, levels: [], scenarios: [] }, pictures, walk };
}

/** What an edition would be, were it published now; without pictures. */
export async function wouldBe(draft: Draft): Promise<EditionContent> {
  const frozen = (await drawnIn(draft)).map((drawn) => frozenAs(drawn, []));
  const { now } = await readClock();
  const last = await Edition.max<number | null, Edition>("number");
  return published({
    number: (last ?? 0) + 1,
    previous: GENESIS,
    kind: draft.kind,
    publishedAt: new Date().toISOString(),
    marketTime: new Date(now).toISOString(),
    author: await nameOf(draft.accountId),
    title: draft.title.trim(),
    ...(draft.corrects ? { corrects: draft.corrects } : {}),
    blocks: await freezeBlocks(draft, frozen, now),
  });
}

/** The sections of a draft's markets, in their order. */
export function composeAll({ blocks, accountId }: Pick<Draft, "blocks" | "accountId">): Promise<Section[]> {
  return Promise.all(marketsOf(blocks).map(async (ask) => (await compose(ask, accountId)).of));
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
  const left = frozen.filter(({ walk }) => !walk);
  const said = await lastSaid([...new Set(frozen.map(({ section }) => section.market.id))]);
  const composed = left.map(({ of }) => of);
  const filling = { sections: composed, markets: marketsIn(held.blocks), accountId: held.accountId, now };
  const blocks: FrozenBlock[] = [];
  for (const block of renewedBlocks(held.blocks, composed)) {
    if (block.kind === "words") blocks.push({ kind: "words", words: block.words });
    else if (block.kind === "risk") blocks.push({ kind: "risk", text: block.text });
    else if (block.kind === "question") blocks.push({ kind: "question", asked: block.asked, answer: block.answer });
    else if (block.kind === "market") {
      const own = left.shift();
      if (own) blocks.push(marketBlock(block, own, said.get(own.section.market.id)));
    } else if (block.kind === "walk") {
      const steps = frozen.filter(({ walk }) => walk?.block === block.id);
      if (steps.length > 0)
        blocks.push({
          kind: "walk",
          market: steps[0].section.market.name,
          steps: steps.map(({ section, walk: { text, voice } = { block: "", text: "" } }) => ({
            ...{ text, section },
            ...(voice ? { voice } : {}),
          })),
        });
    } else {
      const filled = await filledBlock(block, filling);
      if (filled) blocks.push(filled);
    }
  }
  return blocks;
}
