import type { NoteProps } from "#core/marks/note";
import type { Shape } from "../shapes.ts";
import type { Draw } from "./drawing.ts";

const LINE = 34;

/** Words beside a small ring at their place, broken into short lines. */
export const drawNote: Draw<NoteProps, null> = (
  { anchors: [{ time, price }], props },
  _life,
  { scale, indexOf, selected, origin },
) => {
  const [x, y] = [scale.x(indexOf(time)), scale.y(price)];
  const text = [props.text.trim() || "note", ...(origin ? [`(${origin})`] : [])].join(" ");
  const size = 3.5;
  return [
    {
      kind: "path",
      paths: [[x - size, y - size, x + size, y - size, x + size, y + size, x - size, y + size]],
      stroke: "ink2",
      ...(selected ? {} : { fill: "ink2" as const }),
      width: 1.2,
      closed: true,
    },
    ...wrap(text).map((words, i): Shape => ({
      kind: "text",
      x: x + 9,
      y: y + i * 15,
      text: words,
      color: "ink2",
      size: 12,
      serif: true,
      baseline: "middle",
      halo: "paper",
    })),
  ];
};

/** Words in lines of at most so many letters; a longer word stands alone. */
export function wrap(text: string, longest = LINE): string[] {
  const lines: string[] = [];
  for (const word of text.split(/\s+/)) {
    const last = lines.at(-1);
    if (last !== undefined && last.length + 1 + word.length <= longest) lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  return lines;
}
