import type { CountsShown } from "#core/marks/count";
import { wordsOf, type Words } from "#core/edition/words";

/** A market's part of an edition: its chart on a rung, its levels, and the scenarios that are called. */
export interface MarketBlock {
  kind: "market";
  id: string;
  market: string;
  rung: string;
  scenarios: string[];
  counts?: CountsShown;
  /** Studies that are drawn: those on the author's charts (""), or a look by its name; none where it is left out. */
  studies?: string;
  /** What the analyst says of it. */
  words?: Words;
  /** What the desk said on its rungs when the words began with that: whoever writes is told what it says now. */
  rests?: { rung: string; text: string }[];
}

/** A step of a walk: a chart, and what is said of it. */
export interface WalkStep {
  rung: string;
  text: string;
  /** What the desk said when that was taken over: when it says something else now, whoever writes is told. */
  rests?: string;
  voice?: SpokenStep;
}

/** A step said aloud. Its sentence is the caption, as it stood when it was said. */
export interface SpokenStep {
  /** Digest of the recording. */
  sha256: string;
  seconds: number;
  said: string;
}

/** The argument on a market, from the highest rung to the trigger. */
export interface WalkBlock {
  kind: "walk";
  id: string;
  market: string;
  steps: WalkStep[];
}

export type Block =
  | { kind: "words"; id: string; words: Words }
  | MarketBlock
  | WalkBlock
  /** Events of the day, or of seven days. */
  | { kind: "calendar"; id: string; days: 1 | 7 }
  /** What was open, and what became of it since the edition before. */
  | { kind: "recap"; id: string }
  /** Every call of the edition, the best first. */
  | { kind: "ranking"; id: string }
  /** The bearings of the desk's markets, as they stand. */
  | { kind: "board"; id: string }
  /** The counts of the edition's markets with their alternates, and the price that ends each. */
  | { kind: "counts"; id: string }
  /** The areas about the price of the edition's markets. */
  | { kind: "areas"; id: string }
  /** What stands in the record so far, with what chance alone would give. */
  | { kind: "record"; id: string }
  /** What a reader asked, and the answer. */
  | { kind: "question"; id: string; asked: string; answer: string }
  | { kind: "risk"; id: string; text: string };

export type BlockKind = Block["kind"];

export const BLOCK_NAMES: Record<BlockKind, string> = {
  words: "Words",
  market: "A market",
  walk: "Walk-through",
  calendar: "Calendar",
  recap: "What became of it",
  ranking: "Ranking of calls",
  board: "Board",
  counts: "Counts and alternates",
  areas: "Areas",
  record: "The record so far",
  question: "A reader's question",
  risk: "Risk notice",
};

/** What every edition ends with until a desk says it in its own words. */
export const RISK =
  "Education, not advice. Prices may go against any of this; losses are possible. What was said, when, and what " +
  "became of it stands in the record.";

/** Kinds of edition: what each is for, and the blocks it begins with. */
export const EDITION_KINDS = {
  morning: { name: "Morning", begins: ["words", "recap", "calendar", "ranking", "risk"] },
  close: { name: "Close", begins: ["words", "recap", "board", "risk"] },
  week: { name: "Week ahead", begins: ["words", "calendar", "board", "ranking", "record", "risk"] },
  market: { name: "Single market", begins: ["words", "risk"] },
  update: { name: "Update", begins: ["words", "risk"] },
  lesson: { name: "Lesson", begins: ["words", "risk"] },
} as const satisfies Record<string, { name: string; begins: readonly BlockKind[] }>;

export type EditionKind = keyof typeof EDITION_KINDS;
export const KIND_NAMES = Object.keys(EDITION_KINDS) as EditionKind[];

/** A block as it begins; a market's begins with the market. */
export function emptyBlock(kind: TemplateBlock, id: string, edition: EditionKind = "morning"): Block {
  switch (kind) {
    case "words":
      return { kind, id, words: wordsOf("") };
    case "calendar":
      return { kind, id, days: edition === "week" ? 7 : 1 };
    case "risk":
      return { kind, id, text: RISK };
    case "question":
      return { kind, id, asked: "", answer: "" };
    default:
      return { kind, id };
  }
}

/** Blocks a template can name: markets are chosen for each edition. */
export type TemplateBlock = Exclude<BlockKind, "market" | "walk">;

export const TEMPLATE_BLOCKS = (Object.keys(BLOCK_NAMES) as BlockKind[]).filter(
  (kind): kind is TemplateBlock => kind !== "market" && kind !== "walk",
);

/** The blocks an edition of a kind begins with; `ids` gives each its own. */
export function templateOf(
  kind: EditionKind,
  ids: () => string,
  begins: readonly TemplateBlock[] = EDITION_KINDS[kind].begins,
): Block[] {
  return begins.map((own) => emptyBlock(own, ids(), kind));
}

export const marketsOf = (blocks: readonly Block[]): MarketBlock[] => blocks.filter((one) => one.kind === "market");

export const walksOf = (blocks: readonly Block[]): WalkBlock[] => blocks.filter((one) => one.kind === "walk");

/** Every step that was said aloud. */
export const voicesOf = (blocks: readonly Block[]): SpokenStep[] =>
  walksOf(blocks).flatMap(({ steps }) => steps.flatMap(({ voice }) => voice ?? []));

/** Every market that blocks speak of, once. */
export const marketsIn = (blocks: readonly Block[]): string[] => [
  ...new Set([...marketsOf(blocks), ...walksOf(blocks)].map(({ market }) => market)),
];

/** A draft of words, markets and the notice. */
export function plainDraft(
  title: string,
  body: string,
  sections: readonly Omit<MarketBlock, "kind" | "id">[],
): { title: string; kind: EditionKind; blocks: Block[] } {
  const blocks: Block[] = [
    { kind: "words", id: "words", words: wordsOf(body) },
    ...sections.map((section, i): Block => ({ kind: "market", id: `market-${i + 1}`, ...section })),
    { kind: "risk", id: "risk", text: RISK },
  ];
  return { title, kind: "morning", blocks };
}
