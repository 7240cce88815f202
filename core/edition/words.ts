/**
 * What an analyst writes in an edition: a small tree of headings, paragraphs, lists and quotes. It is the document
 * format of the editor on the page, cut down to what readers may be shown.
 */

export type Emphasis = { type: "bold" } | { type: "italic" } | { type: "link"; attrs: { href: string } };

export interface TextNode {
  type: "text";
  text: string;
  marks?: Emphasis[];
}

/** A number that stands for something on the desk: what it says now, and what it follows until it is frozen. */
export interface ChipNode {
  type: "chip";
  attrs: Chip;
}

export interface Chip {
  /** Id of the market it is of. */
  market: string;
  of: "price" | "mark" | "scenario";
  /** Id of the mark or scenario; empty for the market's own price. */
  id: string;
  /** Which of its prices. */
  part: string;
  /** What it says: a price as text. */
  text: string;
}

export type Inline = TextNode | ChipNode | { type: "hardBreak" };

export type WordsNode =
  | { type: "paragraph"; content?: Inline[] }
  | { type: "heading"; attrs: { level: 2 | 3 }; content?: Inline[] }
  | { type: "blockquote"; content: WordsNode[] }
  | { type: "bulletList" | "orderedList"; content: { type: "listItem"; content: WordsNode[] }[] }
  | TableNode;

/** Rows of as many cells each; a cell is of the head or of the body. */
export interface TableNode {
  type: "table";
  content: { type: "tableRow"; content: TableCell[] }[];
}

export interface TableCell {
  type: "tableCell" | "tableHeader";
  content: Extract<WordsNode, { type: "paragraph" }>[];
}

export interface Words {
  type: "doc";
  content: WordsNode[];
}

/** Words from plain text: a blank line between paragraphs. */
export function wordsOf(text: string): Words {
  const paragraphs = text
    .split(/\n\s*\n/)
    .map((one) => one.trim())
    .filter((one) => one !== "");
  return { type: "doc", content: paragraphs.map((one) => ({ type: "paragraph", content: linesOf(one) })) };
}

function linesOf(text: string): Inline[] {
  return text
    .split("\n")
    .flatMap((line, i): Inline[] => [
      ...(i > 0 ? [{ type: "hardBreak" as const }] : []),
      ...(line === "" ? [] : [{ type: "text" as const, text: line }]),
    ]);
}

/** The same as plain text, for those who read no more than that. */
export function textOfWords({ content }: Words): string {
  return content
    .map(textOfNode)
    .filter((text) => text !== "")
    .join("\n\n");
}

function textOfNode(node: WordsNode): string {
  switch (node.type) {
    case "paragraph":
    case "heading":
      return (node.content ?? []).map(textOfInline).join("");
    case "blockquote":
      return node.content.map((one) => `> ${textOfNode(one)}`).join("\n");
    case "table":
      return node.content
        .map((row) => row.content.map((cell) => cell.content.map(textOfNode).join(" ")).join(" | "))
        .join("\n");
    default:
      return node.content
        .map(
          ({ content }, i) => `${node.type === "bulletList" ? "-" : `${i + 1}.`} ${content.map(textOfNode).join("\n")}`,
        )
        .join("\n");
  }
}

const textOfInline = (node: Inline): string =>
  node.type === "text" ? node.text : node.type === "chip" ? node.attrs.text : "\n";

/** Every chip of some words, in their order. */
export function chipsOf({ content }: Words): Chip[] {
  const inNode = (node: WordsNode): Chip[] => {
    if (node.type === "paragraph" || node.type === "heading")
      return (node.content ?? []).flatMap((one) => (one.type === "chip" ? [one.attrs] : []));
    if (node.type === "blockquote") return node.content.flatMap(inNode);
    if (node.type === "table")
      return node.content.flatMap((row) => row.content.flatMap((cell) => cell.content.flatMap(inNode)));
    return node.content.flatMap(({ content: own }) => own.flatMap(inNode));
  };
  return content.flatMap(inNode);
}

/** The same words with every chip saying what `says` has it say; one it knows nothing of says what it last said. */
export function chipsRenewed(words: Words, says: (chip: Chip) => string | undefined): Words {
  return inlinesChanged(words, (node) =>
    node.type === "chip" ? [{ ...node, attrs: { ...node.attrs, text: says(node.attrs) ?? node.attrs.text } }] : [node],
  );
}

/** The same words with something else in the place of each piece of text and each number. */
export function inlinesChanged(words: Words, change: (node: Inline) => Inline[]): Words {
  const inLine = <T extends { content?: Inline[] }>(line: T): T =>
    line.content ? { ...line, content: line.content.flatMap(change) } : line;
  const inNode = (node: WordsNode): WordsNode => {
    switch (node.type) {
      case "paragraph":
      case "heading":
        return inLine(node);
      case "blockquote":
        return { ...node, content: node.content.map(inNode) };
      case "table":
        return { ...node, content: node.content.map((row) => ({ ...row, content: row.content.map(inCell) })) };
      default:
        return { ...node, content: node.content.map((item) => ({ ...item, content: item.content.map(inNode) })) };
    }
  };
  const inCell = (cell: TableCell): TableCell => ({ ...cell, content: cell.content.map(inLine) });
  return { type: "doc", content: words.content.map(inNode) };
}
