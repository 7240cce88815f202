import type { Chip, Emphasis, Inline, TableCell, Words, WordsNode } from "#core/edition/words";

/** Words of one block at most, in characters, and how deep lists and quotes may lie within each other. */
export const MOST_WORDS = 20_000;
const DEEPEST = 5;
const MOST_NODES = 5_000;

/** Words that are none, with the sentence why. */
export class WordsFault extends Error {}

/**
 * Words from untrusted data. What the schema has no place for is taken out and the text within it kept; nothing a
 * reader's page could run or be turned around by gets through: unknown nodes, addresses other than of the web and of
 * mail, control characters and marks that override the direction of text.
 */
export function readWords(raw: unknown): Words {
  const budget = { nodes: MOST_NODES, text: MOST_WORDS };
  const content = nodesOf(isNode(raw) && raw.type === "doc" ? raw.content : [], budget, 0);
  return { type: "doc", content };
}

interface Budget {
  nodes: number;
  text: number;
}

interface Raw {
  type: string;
  attrs?: unknown;
  content?: unknown;
  marks?: unknown;
  text?: unknown;
}

const isNode = (value: unknown): value is Raw =>
  typeof value === "object" && value !== null && typeof (value as Raw).type === "string";
const listOf = (value: unknown): Raw[] => (Array.isArray(value) ? value.filter(isNode) : []);

function spend(budget: Budget): void {
  if (--budget.nodes < 0) throw new WordsFault(`These words have more than ${MOST_NODES} parts.`);
}

function nodesOf(raw: unknown, budget: Budget, depth: number): WordsNode[] {
  return listOf(raw).flatMap((node): WordsNode[] => {
    spend(budget);
    const { type, content } = node;
    const attrs = fieldsOf(node.attrs);
    if (depth >= DEEPEST && !(type === "paragraph" || type === "heading")) return paragraphOf(node, budget);
    switch (type) {
      case "paragraph":
        return [{ type, ...inlines(content, budget) }];
      case "heading":
        return [{ type, attrs: { level: attrs.level === 3 ? 3 : 2 }, ...inlines(content, budget) }];
      case "blockquote": {
        const own = nodesOf(content, budget, depth + 1);
        return own.length > 0 ? [{ type, content: own }] : [];
      }
      case "bulletList":
      case "orderedList": {
        const items = listOf(content).flatMap((item) => {
          const own = nodesOf(item.type === "listItem" ? item.content : [item], budget, depth + 1);
          return own.length > 0 ? [{ type: "listItem" as const, content: own }] : [];
        });
        return items.length > 0 ? [{ type, content: items }] : [];
      }
      case "table":
        return tableOf(node, budget);
      case "text":
      case "chip":
        return [{ type: "paragraph", ...inlines([node], budget) }];
      default:
        return nodesOf(content, budget, depth + 1);
    }
  });
}

/** A table of at most so many rows and columns: what is beyond goes, short rows are filled up. */
const MOST_ROWS = 60;
const MOST_COLUMNS = 12;

/** Cells hold paragraphs alone, and none reaches over others. */
function tableOf({ content }: Raw, budget: Budget): WordsNode[] {
  const rows = listOf(content)
    .filter(({ type }) => type === "tableRow")
    .slice(0, MOST_ROWS)
    .map((row) => {
      spend(budget);
      const cells = listOf(row.content).filter(({ type }) => type === "tableCell" || type === "tableHeader");
      return cells.slice(0, MOST_COLUMNS).map((cell) => cellOf(cell, budget));
    });
  const columns = Math.max(0, ...rows.map(({ length }) => length));
  if (columns === 0) return [];
  const missing = (row: TableCell[]) =>
    Array.from({ length: columns - row.length }, (): TableCell => ({ type: "tableCell", content: [EMPTY_LINE] }));
  return [{ type: "table", content: rows.map((row) => ({ type: "tableRow", content: [...row, ...missing(row)] })) }];
}

const EMPTY_LINE = { type: "paragraph" as const };

function cellOf(cell: Raw, budget: Budget): TableCell {
  spend(budget);
  const lines = listOf(cell.content).map((node): TableCell["content"][number] => ({
    type: "paragraph",
    ...inlines(node.type === "paragraph" ? node.content : [node], budget),
  }));
  const type = cell.type === "tableHeader" ? "tableHeader" : "tableCell";
  return { type, content: lines.length > 0 ? lines : [EMPTY_LINE] };
}

/** What lies too deep, as a paragraph of its text. */
function paragraphOf(node: Raw, budget: Budget): WordsNode[] {
  const text = textWithin(node, budget);
  return text === "" ? [] : [{ type: "paragraph", content: [{ type: "text", text }] }];
}

function textWithin(node: Raw, budget: Budget): string {
  const parts: string[] = [];
  const stack: Raw[] = [node];
  for (let one = stack.pop(); one; one = stack.pop()) {
    spend(budget);
    if (typeof one.text === "string") parts.push(clean(one.text, budget));
    stack.push(...listOf(one.content).reverse());
  }
  return parts.join("");
}

function inlines(raw: unknown, budget: Budget): { content?: Inline[] } {
  const content = listOf(raw).flatMap((node): Inline[] => {
    spend(budget);
    if (node.type === "hardBreak") return [{ type: "hardBreak" }];
    if (node.type === "chip") {
      const chip = chipOf(node.attrs, budget);
      return chip ? [{ type: "chip", attrs: chip }] : [];
    }
    const text =
      node.type === "text" && typeof node.text === "string" ? clean(node.text, budget) : textWithin(node, budget);
    if (text === "") return [];
    const marks = listOf(node.marks).flatMap(emphasisOf);
    return [{ type: "text", text, ...(marks.length > 0 ? { marks } : {}) }];
  });
  return content.length > 0 ? { content } : {};
}

function emphasisOf({ type, attrs }: Raw): Emphasis[] {
  if (type === "bold" || type === "italic") return [{ type }];
  if (type !== "link") return [];
  const { href } = fieldsOf(attrs);
  return typeof href === "string" && isAddress(href) ? [{ type, attrs: { href } }] : [];
}

/** An address of the web or of mail, as it would be followed. */
function isAddress(href: string): boolean {
  if (href.length > 2_000) return false;
  try {
    return ["http:", "https:", "mailto:"].includes(new URL(href).protocol);
  } catch {
    return false;
  }
}

function chipOf(raw: unknown, budget: Budget): Chip | undefined {
  const { market, of, id, part, text } = fieldsOf(raw);
  if (of !== "price" && of !== "mark" && of !== "scenario") return undefined;
  if (![market, id, part, text].every((value) => typeof value === "string" && value.length <= 80)) return undefined;
  return { market, of, id, part, text: clean(text as string, budget) } as Chip;
}

const fieldsOf = (value: unknown): Record<string, unknown> =>
  typeof value === "object" && value !== null ? (value as Record<string, unknown>) : {};

// Control characters, and the marks of Unicode's bidirectional algorithm (UAX 9) that embed, override and isolate.
// eslint-disable-next-line no-control-regex
const UNWANTED = /[\u0000-\u0008\u000b-\u001f\u007f\u202a-\u202e\u2066-\u2069]/g;

function clean(text: string, budget: Budget): string {
  const kept = text.replace(UNWANTED, "").toWellFormed();
  budget.text -= kept.length;
  if (budget.text < 0)
    throw new WordsFault(`These words have more than ${MOST_WORDS.toLocaleString("en")} characters.`);
  return kept;
}
