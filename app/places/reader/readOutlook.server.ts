import type { Changes } from "#core/edition/changes";
import type { EditionKind } from "#core/edition/blocks";
import type { Words } from "#core/edition/words";
import type { Sight } from "../../../server/accounts/plans.ts";
import type { EditionContent, FrozenBlock } from "../../../server/publishing/content.ts";
import { verifyEdition } from "../../../server/publishing/editions.ts";
import { becameOf, seeEdition, type Became } from "../../../server/readers/seen.ts";
import { picturesSeen, type PicturesSeen } from "../../../server/readers/seenPictures.ts";
import { leavesOf } from "../../../server/record/leaves.ts";
import type { FrozenSection } from "../../../server/publishing/section.ts";

/** What of a market's section is sent to a reader's page: not the bars it was drawn from. */
export interface ReadSection extends Pick<FrozenSection, "market" | "rung" | "horizons"> {
  /** Missing where the plan does not show them. */
  levels: FrozenSection["levels"] | undefined;
  /** Calls the plan shows. */
  scenarios: FrozenSection["scenarios"];
  /** Calls it does not show. */
  withheld: number;
  close: number | undefined;
}

/** A block as it is sent to a reader's page. */
export type ReadBlock =
  | Exclude<FrozenBlock, { kind: "market" }>
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
  check: Awaited<ReturnType<typeof verifyEdition>>;
  corrects: EditionContent["corrects"];
  blocks: ReadBlock[];
  /** Whether the reader's plan shows all of it. */
  isWhole: boolean;
}

export async function readOutlook(text: string, sight: Sight): Promise<ReadOutlook> {
  const { edition, content, isWhole } = await seeEdition(text, sight);
  const { number, kind, title, author, publishedBy, publishedAt, marketTime, blocks } = content;
  const pictures = await picturesSeen(number, sight);
  let charts = 0;
  const readBlock = (block: FrozenBlock | null): ReadBlock[] => {
    if (!block) return [];
    if (block.kind !== "market") return [withoutHoles(block)];
    const index = charts++;
    const { section, words, changed } = block;
    // Pictures of the first editions are not kept: they are drawn when they are asked for.
    const own = pictures.get(index) ?? (isWhole ? { wide: "" } : {});
    return [{ kind: "market", index, section: readSection(section), pictures: own, words, changed }];
  };
  return {
    ...{ number, kind, title, isWhole },
    author: publishedBy === undefined ? author : `${author}, published by ${publishedBy}`,
    publishedAt: Date.parse(publishedAt),
    marketTime: Date.parse(marketTime),
    sha256: edition.sha256,
    inLeaves: leavesOf(edition.canonical) !== undefined,
    check: await verifyEdition(number),
    ...(await becameOf(number, content, sight)),
    corrects: content.corrects,
    blocks: blocks.flatMap(readBlock),
  };
}

function readSection({ market, rung, levels, scenarios, bars, horizons = [] }: FrozenSection): ReadSection {
  const shown = scenarios.filter(isThere);
  return {
    ...{ market, rung, horizons, scenarios: shown },
    levels: (levels as typeof levels | undefined)?.filter(isThere),
    withheld: scenarios.length - shown.length,
    close: (bars as typeof bars | undefined)?.at(-1)?.close,
  };
}

/** A filled block whose lines are there at least in part. */
function withoutHoles<T extends Exclude<FrozenBlock, { kind: "market" }>>(block: T): T {
  return "lines" in block ? { ...block, lines: (block.lines as unknown[]).filter(isThere) } : block;
}

const isThere = <T>(value: T | null | undefined): value is T => value !== null && value !== undefined;
