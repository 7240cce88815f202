import type { Area } from "#core/areas/areas";
import type { Life, Mark, MarketFacts } from "#core/marks/kind";
import { priceText } from "#core/marks/wording";
import type { Scale } from "./scale.ts";
import { textWidth, type PathShape, type Shape } from "./shapes.ts";

/** Something the machine offers, as the mark it would be. */
export interface Offer {
  mark: Mark;
  life: Life;
  name: string;
  /** Whether it is the one that is being answered. */
  current: boolean;
}

/** A proposal is an outline: the lines of the mark it would be, dotted; its name stands for all its words. */
export function asOutline(shapes: readonly Shape[], { name, current }: Offer): Shape[] {
  const lines = shapes.filter(
    (shape): shape is PathShape => shape.kind === "path" && shape.stroke !== undefined && shape.opacity === undefined,
  );
  const words = shapes.find((shape) => shape.kind === "text");
  const outline = lines.map((shape): Shape => ({
    kind: "path",
    paths: shape.paths,
    ...(shape.stroke ? { stroke: shape.stroke } : {}),
    width: current ? 2 : 1.1,
    dash: current ? [3, 2] : [1, 3],
  }));
  if (words?.kind !== "text") return outline;
  return [...outline, { ...words, text: name, bold: current, movable: true, halo: "paper" }];
}

/** Room of a bracket at the plot's right edge, and how long its arms are. */
const INSET = 3;
const ARM = 6;

/** Areas as brackets in the margin, heavier with weight; the chosen one reaches over the chart. */
export function drawAreas(areas: readonly Area[], chosen: Area | undefined, { plot, y, view }: Scale): Shape[] {
  const right = plot.left + plot.width - INSET;
  const seen = areas.filter(({ bottom, top }) => top > view.bottom && bottom < view.top);
  const shapes = seen.map((area): Shape => {
    const top = Math.max(plot.top, y(area.top));
    const bottom = Math.max(top + 3, Math.min(plot.top + plot.height, y(area.bottom)));
    return {
      kind: "path",
      paths: [[right - ARM, top, right, top, right, bottom, right - ARM, bottom]],
      stroke: "umber",
      width: area === chosen ? 3.4 : Math.min(2.6, 1.2 + area.weight / 6),
    };
  });
  if (!chosen) return shapes;
  if (!seen.includes(chosen)) {
    const above = chosen.bottom >= view.top;
    return [
      ...shapes,
      {
        kind: "text",
        x: right - ARM,
        y: above ? plot.top + 58 : plot.top + plot.height - 58,
        text: `${above ? "\u2191" : "\u2193"} the chosen area`,
        color: "umber",
        size: 11.5,
        bold: true,
        align: "right",
        baseline: "middle",
        halo: "paper",
      },
    ];
  }
  const [top, bottom] = [Math.round(y(chosen.top)) + 0.5, Math.round(y(chosen.bottom)) + 0.5];
  return [
    ...shapes,
    {
      kind: "path",
      paths: [
        [plot.left, top, right, top],
        [plot.left, bottom, right, bottom],
      ],
      stroke: "umber",
      width: 1,
      dash: [8, 5],
    },
  ];
}

export interface SwingName {
  time: number;
  price: number;
  side: "high" | "low";
  label: string;
}

/** HH, HL, LH, LL and EQ at their swings; of names that would cover each other the first stays. */
export function drawSwingNames(
  names: readonly SwingName[],
  indexOf: (time: number) => number,
  { x, y, view }: Scale,
): Shape[] {
  return names.flatMap(({ time, price, side, label }): Shape[] => {
    const index = indexOf(time);
    if (index < view.from || index > view.to || price < view.bottom || price > view.top) return [];
    const up = side === "high";
    return [
      {
        kind: "text",
        x: x(index),
        y: y(price) + (up ? -4 : 4),
        text: label,
        color: "slate",
        size: 10.5,
        align: "center",
        baseline: up ? "bottom" : "top",
        yields: true,
        halo: "paper",
      },
    ];
  });
}

export interface NextShift {
  direction: "up" | "down";
  price: number;
  time: number;
}

/**
 * The line whose crossing by a close shifts the trend: always in sight, from the swing it is of. Those of longer rungs
 * are lighter.
 */
export function drawNextShift(
  { direction, price }: NextShift,
  start: number,
  { plot, x, y, view }: Scale,
  market: MarketFacts,
  closes: string,
  longer = false,
): Shape[] {
  const right = plot.left + plot.width;
  const left = Math.min(right - 40, Math.max(plot.left, x(start)));
  const words =
    `${direction}-shift: ${closes} close ${direction === "up" ? "above" : "below"} ` + `${priceText(price, market)}`;
  const above = price >= view.top;
  if (above || price <= view.bottom) {
    // The edge is the own rung's; a longer one's stands in the line above the chart.
    if (longer) return [];
    return [
      {
        kind: "text",
        x: plot.left + 8,
        y: above ? plot.top + 10 : plot.top + plot.height - 10,
        text: `${above ? "\u2191" : "\u2193"} ${words}`,
        color: "slate",
        size: 11.5,
        baseline: "middle",
        halo: "paper",
      },
    ];
  }
  const at = Math.round(y(price)) + 0.5;
  return [
    {
      kind: "path",
      paths: [[left, at, right, at]],
      stroke: "slate",
      width: longer ? 1 : 1.4,
      dash: longer ? [1, 4] : [2, 2],
    },
    {
      kind: "text",
      x: Math.max(plot.left + 6, Math.min(left + 6, right - textWidth(words, 12) - 6)),
      y: direction === "up" ? at - 3 : at + 3,
      text: words,
      color: "slate",
      size: longer ? 11 : 11.5,
      bold: !longer,
      movable: true,
      baseline: direction === "up" ? "bottom" : "top",
      halo: "paper",
      ...(longer ? { yields: true } : {}),
    },
  ];
}
