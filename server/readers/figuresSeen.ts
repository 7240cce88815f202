import type { EditionContent, FrozenBlock, Seen } from "../publishing/content.ts";

/** How much of an edition somebody sees. */
export interface FiguresSeen {
  /** Words in blocks of words and beside markets. */
  words: number;
  levels: number;
  calls: number;
  /** Calls whose entries, stops and targets are seen. */
  orders: number;
  /** Charts with a picture. */
  pictures: number;
  /** Numbers anywhere in what is seen, bars apart. */
  numbers: number;
}

/** Counts what is there in the part of an edition somebody sees. */
export function figuresSeen({ blocks, title }: Seen<EditionContent>): FiguresSeen {
  const seen = (blocks as (FrozenBlock | null)[]).filter((block) => block !== null);
  const sections = seen.flatMap((block) => (block.kind === "market" ? [block.section] : []));
  const calls = sections.flatMap(({ scenarios }) => scenarios.filter(Boolean));
  const steps = seen.flatMap((block) => (block.kind === "walk" ? block.steps : []));
  const texts = [
    ...seen.flatMap((block) => ("words" in block && block.words ? textsIn(block.words) : [])),
    ...steps.map(({ text }) => (text as string | undefined) ?? ""),
  ];
  return {
    words: texts.join(" ").split(/\s+/).filter(Boolean).length,
    levels: sections.flatMap((section) => (section.levels ?? []).filter(Boolean)).length,
    calls: calls.length,
    orders: calls.filter((call) => hasOrders("terms" in call ? call.terms : call)).length,
    pictures: [...sections, ...steps.map(({ section }) => section)].filter((section) => "bars" in section).length,
    numbers: numbersIn([title, seen]),
  };
}

const hasOrders = (terms: object) => "entry" in terms || "legs" in terms;

function textsIn(value: unknown): string[] {
  if (Array.isArray(value)) return value.flatMap(textsIn);
  if (typeof value !== "object" || value === null) return [];
  return Object.entries(value).flatMap(([name, one]) => (name === "text" ? [String(one)] : textsIn(one)));
}

function numbersIn(value: unknown): number {
  if (typeof value === "number") return 1;
  if (typeof value === "string") return value.match(/\d+(?:[.,]\d+)*/g)?.length ?? 0;
  if (typeof value !== "object" || value === null) return 0;
  return Object.entries(value)
    .filter(([name]) => name !== "bars" && name !== "calendar" && name !== "pictures" && name !== "id")
    .reduce((sum, [, one]) => sum + numbersIn(one), 0);
}
