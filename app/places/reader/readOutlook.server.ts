import type { Changes } from "#core/edition/changes";
import type { EditionKind } from "#core/edition/blocks";
import type { Words } from "#core/edition/words";
import { canSee } from "#core/edition/parts";
import type { Sight } from "../../../server/accounts/plans.ts";
import { findDraft } from "../../../server/publishing/drafts.ts";
import { wouldBe } from "../../../server/publishing/freeze.ts";
import {
  chartNumbers,
  type EditionContent,
  type FrozenBlock,
  type FrozenStep,
} from "../../../server/publishing/content.ts";
import { verifyEdition } from "../../../server/publishing/editions.ts";
import { becameOf, isWhole, seeEdition, wouldSee, type Became } from "../../../server/readers/seen.ts";
import { picturesSeen, type PicturesSeen } from "../../../server/readers/seenPictures.ts";
import { leavesOf } from "../../../server/record/leaves.ts";
import type { FrozenSection } from "../../../server/publishing/section.ts";

/** A study by its name, and what it read. */
export interface StudyRead {
  name: string;
  says: string;
}

/** What of a market's section is sent to a reader's page: not the bars it was drawn from. */
export interface ReadSection extends Pick<FrozenSection, "market" | "rung" | "horizons"> {
  /** What the studies of its chart read; none where the plan does not show words. */
  studies: StudyRead[];
  /** Missing where the plan does not show them. */
  levels: FrozenSection["levels"] | undefined;
  /** Calls the plan shows. */
  scenarios: FrozenSection["scenarios"];
  /** Calls it does not show. */
  withheld: number;
  close: number | undefined;
}

/** A step of a walk as it is sent to a reader's page. */
export interface ReadStep extends Pick<FrozenSection, "market" | "rung"> {
  index: number;
  /** Missing where the plan does not show words. */
  text: string | undefined;
  /** The step said aloud, where the plan shows words and somebody said it. */
  voice: FrozenStep["voice"];
  pictures: PicturesSeen;
}

/** A block as it is sent to a reader's page. */
export type ReadBlock =
  | Exclude<FrozenBlock, { kind: "market" | "walk" }>
  | { kind: "walk"; market: string; steps: ReadStep[] }
  | {
      kind: "market";
      index: number;
      section: ReadSection;
      pictures: PicturesSeen;
      words: Words | undefined;
      changed: Partial<Changes> | undefined;
    };

/** An outlook as one reader is shown it. */
export interface ReadOutlook extends Became {
  number: number;
  kind: EditionKind;
  title: string;
  author: string;
  publishedAt: number;
  marketTime: number;
  sha256: string;
  inLeaves: boolean;
  /** Missing of what is not published yet. */
  check: Awaited<ReturnType<typeof verifyEdition>> | undefined;
  corrects: EditionContent["corrects"];
  blocks: ReadBlock[];
  /** Whether the reader's plan shows all of it. */
  isWhole: boolean;
}

export async function readOutlook(text: string, sight: Sight): Promise<ReadOutlook> {
  const { edition, content, isWhole: whole } = await seeEdition(text, sight);
  const { number, kind, title, author, publishedBy, publishedAt, marketTime, blocks } = content;
  const pictures = await picturesSeen(number, sight);
  // Pictures of the first editions are not kept: they are drawn when they are asked for.
  const pictureOf = (index: number) => pictures.get(index) ?? (whole ? { wide: "" } : {});
  return {
    ...{ number, kind, title, isWhole: whole },
    author: publishedBy === undefined ? author : `${author}, published by ${publishedBy}`,
    publishedAt: Date.parse(publishedAt),
    marketTime: Date.parse(marketTime),
    sha256: edition.sha256,
    inLeaves: leavesOf(edition.canonical) !== undefined,
    check: await verifyEdition(number),
    ...(await becameOf(number, content, sight)),
    corrects: content.corrects,
    blocks: readBlocks(blocks, pictureOf),
  };
}

/** An outlook as readers on a plan would be shown it, were it published now. */
export async function readPreview(draftId: string, sight: Sight): Promise<ReadOutlook> {
  const content = wouldSee(await wouldBe(await findDraft(draftId)), sight);
  const { number, kind, title, author, publishedAt, marketTime, corrects, blocks } = content;
  const drawn = canSee("pictures", sight.parts) ? { wide: "", phone: "", paper: "" } : {};
  return {
    ...{ number, kind, title, author, corrects },
    isWhole: isWhole(sight),
    publishedAt: Date.parse(publishedAt),
    marketTime: Date.parse(marketTime),
    ...{ sha256: "", inLeaves: true, check: undefined },
    ...{ followUps: [], notes: [], standings: [], corrections: [] },
    blocks: readBlocks(blocks, () => drawn),
  };
}

function readBlocks(blocks: readonly (FrozenBlock | null)[], pictureOf: (index: number) => PicturesSeen): ReadBlock[] {
  const numbers = chartNumbers(blocks);
  return blocks.flatMap((block, i): ReadBlock[] => {
    if (!block) return [];
    if (block.kind === "walk") {
      const read = block.steps.map(({ text, voice, section: { market, rung } }, n): ReadStep => {
        const index = numbers[i][n];
        return { market, rung, index, text, voice, pictures: pictureOf(index) };
      });
      return [{ kind: "walk", market: block.market, steps: read }];
    }
    if (block.kind !== "market") return [withoutHoles(block)];
    const [index] = numbers[i];
    const { section, words, changed } = block;
    return [{ kind: "market", index, section: readSection(section), pictures: pictureOf(index), words, changed }];
  });
}

function readSection({
  market,
  rung,
  levels,
  scenarios,
  bars,
  horizons = [],
  studies = [],
}: FrozenSection): ReadSection {
  const shown = scenarios.filter(isThere);
  return {
    ...{ market, rung, horizons, scenarios: shown },
    studies: studies.map(({ name, says }) => ({ name, says })),
    levels: (levels as typeof levels | undefined)?.filter(isThere),
    withheld: scenarios.length - shown.length,
    close: (bars as typeof bars | undefined)?.at(-1)?.close,
  };
}

/** A filled block whose lines are there at least in part. */
function withoutHoles<T extends Exclude<FrozenBlock, { kind: "market" | "walk" }>>(block: T): T {
  return "lines" in block ? { ...block, lines: (block.lines as unknown[]).filter(isThere) } : block;
}

const isThere = <T>(value: T | null | undefined): value is T => value !== null && value !== undefined;
