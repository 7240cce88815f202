import type { TrendLineProps, TrendLineState } from "#core/marks/trendLine";
import type { Draw } from "./drawing.ts";
import { straight } from "./straight.ts";

/** From the first anchor through the second to the right edge, straight in bars; broken ones are grey and dotted. */
export const drawTrendLine: Draw<TrendLineProps, TrendLineState> = (
  { anchors },
  life,
  { scale, indexOf, selected, origin },
) => {
  const [a, b] = anchors.map(({ time, price }) => ({ index: indexOf(time), price }));
  if (b.index <= a.index) return [];
  const perBar = (b.price - a.price) / (b.index - a.index);
  const line = straight(scale, a.index, (index) => a.price + perBar * (index - a.index));
  if (!line) return [];
  const pigment = life.dead ? "ink3" : "slate";
  const name = ["trend line", origin, life.dead ? life.status : ""].filter(Boolean).join(", ");
  return [
    {
      kind: "path",
      paths: [line.path],
      stroke: pigment,
      width: selected ? 2 : 1.3,
      ...(life.dead ? { dash: [2, 4] } : {}),
    },
    {
      kind: "text",
      ...line.label,
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
