import type { Scenario } from "#core/scenarios/scenario";
import type { CountRole } from "#core/marks/countProps";
import type { Direction } from "#core/marks/bearing";
import type { CalendarEvent } from "#core/events/event";
import type { HorizonView } from "#core/finding/horizon";
import type { Changes } from "#core/edition/changes";
import type { RecordFigures } from "#core/edition/recordFigures";
import { RISK, type EditionKind } from "#core/edition/blocks";
import { wordsOf, type Words } from "#core/edition/words";
import type { Rank, ScenarioRole } from "#core/written/written";
import { assembled, leavesOf } from "../record/leaves.ts";
import type { FrozenSection, Section } from "./section.ts";

/** An event as an edition tells it. */
export interface CalendarLine {
  at: number;
  allDay: boolean;
  title: string;
  /** 1 to 3. */
  impact: CalendarEvent["impact"];
}

/** A call of before, what happened to it since the last edition, and where it stands unless it is over. */
export interface RecapLine {
  edition: number;
  title: string;
  market: string;
  since: string[];
  stands?: string;
}

export interface RankingLine {
  market: string;
  title: string;
  direction: "long" | "short";
  rank: Rank;
  role: ScenarioRole;
  weight: number;
  /** Blended reward to risk; absent while its prices come with its steps. */
  reward?: number;
}

export interface BoardLine {
  market: string;
  views: { horizon: HorizonView["horizon"]; direction: Direction }[];
}

/** A count as it stands, or an alternate of it. */
export interface CountsLine {
  market: string;
  rung: string;
  role: CountRole;
  /** 0 to 100. */
  weight: number;
  says: string;
  /** The nearest price that ends a part of it, how far away that is, and what it would end; of a live one. */
  ends?: string;
}

/** An area about the price of a market. */
export interface AreaLine {
  market: string;
  band: string;
  /** From the last close to its nearer edge, as a share of the close. */
  distance: number;
  weight: number;
  rungs: string[];
  reasons: string[];
  /** A count is among its reasons. */
  counted?: true;
}

/** A step of a walk; `voice` is the digest of what was said aloud, and how long that takes in seconds. */
export interface FrozenStep {
  text: string;
  section: FrozenSection;
  voice?: { sha256: string; seconds: number };
}

/** A block as it is frozen. What a reader's plan does not show is null, or missing from it. */
export type FrozenBlock =
  | { kind: "words"; words: Words }
  | { kind: "market"; section: FrozenSection; words?: Words; changed?: Changes }
  | { kind: "walk"; market: string; steps: FrozenStep[] }
  | { kind: "calendar"; days: 1 | 7; lines: CalendarLine[] }
  | { kind: "recap"; lines: RecapLine[] }
  | { kind: "ranking"; lines: RankingLine[] }
  | { kind: "board"; lines: BoardLine[] }
  | { kind: "counts"; lines: CountsLine[] }
  | { kind: "areas"; lines: AreaLine[] }
  | { kind: "record"; figures: RecordFigures }
  | { kind: "question"; asked: string; answer: string }
  | { kind: "risk"; text: string };

/** What is frozen of an edition. `previous` is the digest of the edition before. */
export interface EditionContent {
  number: number;
  previous: string;
  kind: EditionKind;
  publishedAt: string;
  marketTime: string;
  /** When the last of its markets has closed after it was published (ISO 8601); plans may wait for that. */
  closesAt?: string;
  /** Whose draft it was; and who published it, where that was somebody else. */
  author: string;
  publishedBy?: string;
  title: string;
  /** The edition it corrects or takes back; `small`: a few words, and no number. */
  corrects?: { number: number; how: "correction" | "withdrawal"; small?: true };
  blocks: FrozenBlock[];
}

/** Editions of the second format are one text. */
export interface SecondContent extends Omit<EditionContent, "kind" | "blocks"> {
  format: "even-compass-edition-2";
  body: string;
  sections: FrozenSection[];
}

/** Editions of the first hold whole marks, and no pictures. */
export interface FirstContent extends Omit<SecondContent, "format" | "sections"> {
  format: "even-compass-edition-1";
  sections: (Omit<Section, "scenarios"> & { scenarios: Scenario[] })[];
}

/** What a stored edition says, whatever its format. */
export function contentOf(canonical: string): EditionContent {
  const leaves = leavesOf(canonical);
  if (leaves) return assembled(leaves) as unknown as EditionContent;
  const { body, sections, format: _, ...head } = JSON.parse(canonical) as SecondContent | FirstContent;
  return {
    ...head,
    kind: "morning",
    blocks: [
      { kind: "words", words: wordsOf(body) },
      // The first format has what the second has, and more.
      ...sections.map((section): FrozenBlock => ({ kind: "market", section: section as FrozenSection })),
      { kind: "risk", text: RISK },
    ],
  };
}

/** Every chart of an edition in the order of their pictures: those of markets, then those of steps. */
export const chartsOf = ({ blocks }: Pick<EditionContent, "blocks">): FrozenSection[] => [
  ...sectionsOf({ blocks: blocks.filter(Boolean) }),
  ...blocks
    .filter(Boolean)
    .flatMap((block) => (block.kind === "walk" ? block.steps.map(({ section }) => section) : [])),
];

/** The numbers of each block's charts in that order: what is withheld has none. */
export function chartNumbers(blocks: readonly (FrozenBlock | null)[]): number[][] {
  let [market, step] = [0, blocks.filter((block) => block?.kind === "market").length];
  return blocks.map((block) =>
    block?.kind === "market" ? [market++] : block?.kind === "walk" ? block.steps.map(() => step++) : [],
  );
}

export const sectionsOf = ({ blocks }: Pick<EditionContent, "blocks">): FrozenSection[] =>
  blocks.flatMap((block) => (block.kind === "market" ? [block.section] : []));

declare const sight: unique symbol;

/**
 * Something as one plan shows it: what is withheld is missing, or null in a list. Whatever leaves the desk for a reader
 * is made of this, and of nothing that did not pass `server/readers/seen.ts`.
 */
export type Seen<T> = T & { readonly [sight]: true };
