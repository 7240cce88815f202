import { diff3Merge } from "node-diff3";
import type { Block, EditionKind } from "#core/edition/blocks";
import type { Emphasis, Inline, TableCell, TableNode, Words, WordsNode } from "#core/edition/words";

/** What two write in at once. */
export interface Written {
  title: string;
  kind: EditionKind;
  blocks: readonly Block[];
}

const isSame = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);
/** Of one thing that cannot be put together: whoever changed it has it, and of two who did whoever saves now. */
const either = <T>(base: T, mine: T, theirs: T): T => (isSame(mine, base) ? theirs : mine);

/**
 * A draft that two changed since `base`, put together: each has what the other did not change, and words that both
 * changed are put together word by word. Where both wrote in one place both stand there, theirs first: nothing that was
 * written is lost.
 */
export function mergeDrafts(base: Written, mine: Written, theirs: Written): Written {
  return {
    title: either(base.title, mine.title, theirs.title),
    kind: either(base.kind, mine.kind, theirs.kind),
    blocks: mergeBlocks(base.blocks, mine.blocks, theirs.blocks),
  };
}

function mergeBlocks(base: readonly Block[], mine: readonly Block[], theirs: readonly Block[]): Block[] {
  const [inBase, inMine, inTheirs] = [base, mine, theirs].map((of) => new Map(of.map((block) => [block.id, block])));
  /** A block that one took out stays out, unless the other has written in it since. */
  const merged = (id: string): Block | undefined => {
    const [was, own, other] = [inBase.get(id), inMine.get(id), inTheirs.get(id)];
    if (own && other) return was ? mergeBlock(was, own, other) : own;
    const left = own ?? other;
    return left && (!was || !isSame(left, was)) ? left : undefined;
  };
  const order = orderOf(
    base.map(({ id }) => id),
    mine.map(({ id }) => id),
    theirs.map(({ id }) => id),
  );
  return order.flatMap((id) => merged(id) ?? []);
}

/** The order of whoever moved something, mine of two; what the other one added stands behind what it stood behind. */
function orderOf(base: readonly string[], mine: readonly string[], theirs: readonly string[]): string[] {
  const among = (of: readonly string[], others: readonly string[]) => of.filter((id) => others.includes(id));
  const iMoved = !isSame(among(mine, base), among(base, mine));
  const [first, second] = iMoved ? [mine, theirs] : [theirs, mine];
  const order = [...first];
  second.forEach((id, i) => {
    if (order.includes(id)) return;
    const before = second.slice(0, i).findLast((one) => order.includes(one));
    order.splice(before === undefined ? 0 : order.indexOf(before) + 1, 0, id);
  });
  return order;
}

function mergeBlock(base: Block, mine: Block, theirs: Block): Block {
  if (isSame(mine, base) || isSame(mine, theirs)) return theirs;
  if (isSame(theirs, base) || mine.kind !== theirs.kind) return mine;
  const names = new Set([...Object.keys(mine), ...Object.keys(theirs)]);
  const fields = [...names].map((name) => {
    const [was, own, other] = [base, mine, theirs].map((block) => (block as unknown as Record<string, unknown>)[name]);
    const isWords = name === "words" && own && other;
    return [
      name,
      isWords ? mergeWords(was as Words | undefined, own as Words, other as Words) : either(was, own, other),
    ];
  });
  return Object.fromEntries(fields.filter(([, value]) => value !== undefined)) as Block;
}

const EMPTY: Words = { type: "doc", content: [] };

/** Words that two changed: paragraph by paragraph, and within one that both changed word by word. */
export function mergeWords(base: Words = EMPTY, mine: Words, theirs: Words): Words {
  const content = merge(base.content, mine.content, theirs.content).flatMap((part): WordsNode[] => {
    if ("same" in part) return part.same;
    const { was, own, other } = part;
    // As many as there were: each is put together with its own before.
    const isPaired = own.length === was.length && other.length === was.length;
    return isPaired ? was.flatMap((one, i) => mergeNode(one, own[i], other[i])) : [...other, ...own];
  });
  return { type: "doc", content };
}

type Part<T> = { same: T[] } | { was: T[]; own: T[]; other: T[] };

/** What all agree on, or one alone has changed; and what both have. */
function merge<T>(base: readonly T[], mine: readonly T[], theirs: readonly T[]): Part<T>[] {
  const text = (of: readonly T[]) => of.map((one) => JSON.stringify(one));
  const read = (of: readonly string[]) => of.map((one) => JSON.parse(one) as T);
  return diff3Merge(text(mine), text(base), text(theirs), { excludeFalseConflicts: true }).map((part) =>
    part.ok
      ? { same: read(part.ok) }
      : { was: read(part.conflict!.o), own: read(part.conflict!.a), other: read(part.conflict!.b) },
  );
}

/** A paragraph or heading word by word, a table cell by cell; of lists and quotes that both changed both. */
function mergeNode(was: WordsNode, own: WordsNode, other: WordsNode): WordsNode[] {
  if (isSame(own, was) || isSame(own, other)) return [other];
  if (isSame(other, was)) return [own];
  if (was.type === "table" && own.type === "table" && other.type === "table" && isOneShape(was, own, other))
    return [mergeTables(was, own, other)];
  if (!isLine(was) || !isLine(own) || !isLine(other)) return [other, own];
  const tokens = merge(tokensOf(was), tokensOf(own), tokensOf(other)).flatMap((part) =>
    "same" in part ? part.same : apart(part.other, part.own),
  );
  const { content: _was, ...before } = was;
  const { content: _own, ...head } = own;
  const { content: _other, ...otherHead } = other;
  return [{ ...either<object>(before, head, otherHead), content: joined(tokens) } as WordsNode];
}

const shapeOf = ({ content }: TableNode) => content.map((row) => row.content.length);
const isOneShape = (was: TableNode, own: TableNode, other: TableNode) =>
  isSame(shapeOf(was), shapeOf(own)) && isSame(shapeOf(was), shapeOf(other));

function mergeTables(was: TableNode, own: TableNode, other: TableNode): TableNode {
  const cellsOf = (table: TableNode, row: number, column: number) => table.content[row].content[column];
  const cell = (row: number, column: number): TableCell => {
    const [before, mine, theirs] = [was, own, other].map((table) => cellsOf(table, row, column));
    const [doc, docMine, docTheirs] = [before, mine, theirs].map(({ content }): Words => ({ type: "doc", content }));
    const content = mergeWords(doc, docMine, docTheirs).content as TableCell["content"];
    return { type: either(before.type, mine.type, theirs.type), content };
  };
  return {
    type: "table",
    content: was.content.map((row, i) => ({ type: "tableRow", content: row.content.map((_, n) => cell(i, n)) })),
  };
}

/** Both, with a space between them where there is none. */
function apart(first: readonly Inline[], then: readonly Inline[]): Inline[] {
  const isSpace = (one: Inline | undefined) => !one || (one.type === "text" && one.text.trim() === "");
  const space: Inline[] = isSpace(first.at(-1)) || isSpace(then.at(0)) ? [] : [{ type: "text", text: " " }];
  return [...first, ...space, ...then];
}

type Line = Extract<WordsNode, { type: "paragraph" | "heading" }>;
const isLine = (node: WordsNode): node is Line => node.type === "paragraph" || node.type === "heading";

/** Words and the spaces between them, each with its emphasis; numbers of the desk as one each. */
function tokensOf({ content = [] }: Line): Inline[] {
  return content.flatMap((node): Inline[] =>
    node.type === "text"
      ? node.text
          .split(/(\s+)/)
          .filter((text) => text !== "")
          .map((text) => ({ ...node, text }))
      : [node],
  );
}

/** Neighbours of one emphasis are one text. */
function joined(tokens: readonly Inline[]): Inline[] {
  const out: Inline[] = [];
  const emphasis = (marks: Emphasis[] | undefined) => JSON.stringify(marks ?? []);
  for (const token of tokens) {
    const last = out.at(-1);
    if (token.type === "text" && last?.type === "text" && emphasis(last.marks) === emphasis(token.marks))
      out[out.length - 1] = { ...last, text: last.text + token.text };
    else out.push(token);
  }
  return out;
}
