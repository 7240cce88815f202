import type { ChannelProps, ChannelState } from "#core/marks/channel";
import type { Draw } from "./drawing.ts";
import { straight } from "./straight.ts";

/** Both lines from the first anchor to the right edge and a faint one between; a broken channel is grey and dotted. */
export const drawChannel: Draw<ChannelProps, ChannelState> = (
  { anchors },
  life,
  { scale, indexOf, selected, origin },
) => {
  const [a, b, c] = anchors.map(({ time, price }) => ({ index: indexOf(time), price }));
  if (b.index <= a.index) return [];
  const perBar = (b.price - a.price) / (b.index - a.index);
  const base = (index: number) => a.price + perBar * (index - a.index);
  const offset = c.price - base(c.index);
  const from = Math.min(a.index, c.index);
  const line = (share: number) => straight(scale, from, (index) => base(index) + share * offset);
  const [first, middle, second] = [line(0), line(0.5), line(1)];
  if (!first || !middle || !second) return [];
  const pigment = life.dead ? "ink3" : "slate";
  const dash = life.dead ? { dash: [2, 4] } : {};
  const name = ["channel", origin, life.dead ? life.status : ""].filter(Boolean).join(", ");
  return [
    { kind: "path", paths: [first.path, second.path], stroke: pigment, width: selected ? 2 : 1.3, ...dash },
    { kind: "path", paths: [middle.path], stroke: pigment, width: 0.8, dash: [6, 5], opacity: 0.6 },
    {
      kind: "text",
      ...second.label,
      text: name,
      color: pigment,
      size: 11.5,
      movable: true,
      align: "right",
      baseline: "bottom",
      halo: "paper",
    },
  ];
};
