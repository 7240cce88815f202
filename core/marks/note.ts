import type { MarkKind } from "#core/marks/kind";

export interface NoteProps {
  text: string;
}

const LONGEST = 200;

/** Words at a place on the chart. Nothing happens to them. */
export const note: MarkKind<NoteProps, null> = {
  kind: "note",
  title: "Note",
  anchors: { least: 1, most: 1 },
  readProps(raw) {
    const text = raw.text ?? "";
    return typeof text === "string" && text.length <= LONGEST ? { text } : undefined;
  },
  check: () => [],
  start: () => null,
  advance: (_mark, state) => state,
  status: () => ({ code: "none", dead: false }),
  prices: () => [],
  say: ({ props }) => (props.text.trim() === "" ? "A note without words." : `"${props.text.trim()}"`),
};
