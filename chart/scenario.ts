import type { MarketFacts } from "#core/marks/kind";
import { priceText } from "#core/marks/wording";
import { outlineOfWritten, type Outline, type OutlinePrice } from "#core/written/outline";
import type { Written } from "#core/written/written";
import type { Scale } from "./scale.ts";
import type { Shape } from "./shapes.ts";

/** A scenario on a chart. */
export interface DrawnScenario extends Outline {
  /** Drawn dashed: it stands beside the preferred one. */
  alternate: boolean;
  /** Its prices can be taken hold of. */
  held?: boolean;
  /** Said at the end of its way, of one that stands beside another; of that only the way is drawn. */
  beside?: string;
}

export function drawnScenario(written: Pick<Written, "terms" | "role">): DrawnScenario {
  return { ...outlineOfWritten(written), alternate: written.role === "alternate" };
}

/** Another one of the same set: its way, with its name and its weight at the end. */
export function drawnBeside(written: Pick<Written, "terms" | "role" | "title" | "weight">): DrawnScenario {
  return { ...drawnScenario(written), beside: `${written.title}, ${written.weight} %` };
}

/** Every price that a picture of a scenario must show. */
export function scenarioPrices({ prices, path, beside }: Pick<DrawnScenario, "prices" | "path" | "beside">): number[] {
  return beside === undefined ? [...path, ...prices.map(({ price }) => price)] : [...path];
}

/** Pixels of future that are needed to draw a way into it. */
const LEAST_ROOM = 30;
/** Where the short lines of its prices begin, as a share of the room. */
const LINES_FROM = 0.3;

/** Where the prices of a scenario that is held are taken hold of. */
export function scenarioHandles(
  { prices }: Outline,
  scale: Scale,
  last: number,
): { field: string; x: number; y: number }[] {
  const { from } = roomOf(scale, last);
  return prices.map(({ field, price }) => ({ field, x: from, y: scale.y(price) }));
}

/**
 * A scenario as the way price is expected to take, from the last close through its steps to each target; alternates are
 * dashed. Its entry, its stop and the price that proves it wrong are ink: short lines with their names.
 */
export function drawScenario(
  scenario: DrawnScenario,
  scale: Scale,
  last: number,
  close: number,
  market: MarketFacts,
): Shape[] {
  const { room, from, end } = roomOf(scale, last);
  if (room < LEAST_ROOM) return [];
  const points = [close, ...scenario.path];
  const path = points.map((price, i) => ({
    x: scale.x(last) + (room * i) / (points.length - 1 || 1),
    y: scale.y(price),
  }));
  const [tail, head] = path.slice(-2);
  const way = { stroke: "carmine" as const, width: scenario.beside === undefined ? 1.8 : 1.1 };
  const dash = scenario.alternate ? { dash: [6, 4] } : {};
  return [
    { kind: "path", paths: [path.flatMap(({ x, y }) => [x, y])], ...way, ...dash },
    ...(tail && head ? [{ kind: "path" as const, paths: [arrowHead(tail, head)], ...way }] : []),
    ...(scenario.beside === undefined
      ? drawnPrices(scenario).flatMap((price) => drawPrice(price, { from, end }, scenario, scale, market))
      : named(scenario.beside, head, scale)),
  ];
}

/** The name of a way at its end, on the outer side of it. */
function named(text: string, head: { x: number; y: number } | undefined, { plot }: Scale): Shape[] {
  if (!head) return [];
  const isHigh = head.y < plot.top + plot.height / 2;
  const y = head.y + (isHigh ? -4 : 4);
  const at = { x: head.x, y, align: "right", baseline: isHigh ? "bottom" : "top" } as const;
  return [{ kind: "text", text, ...at, color: "ink2", size: 11, halo: "paper" }];
}

function roomOf(scale: Scale, last: number): { room: number; from: number; end: number } {
  const { plot } = scale;
  const [begin, end] = [Math.max(scale.x(last), plot.left), plot.left + plot.width];
  return { room: end - 8 - scale.x(last), from: begin + Math.max(0, end - 8 - begin) * LINES_FROM, end };
}

/** Wrong at the stop is said once, at the stop. */
function drawnPrices({ prices }: Outline): OutlinePrice[] {
  const stops = prices.filter(({ what }) => what === "stop").map(({ price }) => price);
  return prices.filter(({ what, price }) => what !== "wrong" || !stops.includes(price));
}

const NAMES = { entry: "enter", stop: "stop", target: "target", wrong: "\u00d7 wrong" } as const;

function drawPrice(
  { what, price, about, field }: OutlinePrice,
  { from, end }: { from: number; end: number },
  { direction }: Outline,
  scale: Scale,
  market: MarketFacts,
): Shape[] {
  const y = Math.round(scale.y(price)) + 0.5;
  const nth = what === "target" ? ` ${Number(/targets\[(\d+)\]/.exec(field)?.[1] ?? 0) + 1}` : "";
  const isBelow = (what === "stop" || what === "wrong") === (direction === "long");
  const text: Shape = {
    kind: "text",
    x: end - 6,
    y: scale.y(price) + (isBelow ? 3 : -3),
    text: `${NAMES[what]}${nth} ${about ? "about " : ""}${priceText(price, market)}`,
    color: "ink",
    size: 11,
    movable: true,
    first: true,
    align: "right",
    baseline: isBelow ? "top" : "bottom",
    halo: "paper",
  };
  // Where it is wrong needs no line of its own: its cross and its price say it.
  if (what === "wrong") return [text];
  const dash = about ? { dash: [2, 3] } : {};
  return [
    { kind: "path", paths: [[from, y, end, y]], stroke: "ink", width: what === "target" ? 1 : 1.4, ...dash },
    text,
  ];
}

function arrowHead(from: { x: number; y: number }, to: { x: number; y: number }): number[] {
  const angle = Math.atan2(to.y - from.y, to.x - from.x);
  const wing = (turn: number) => [to.x - 10 * Math.cos(angle + turn), to.y - 10 * Math.sin(angle + turn)];
  return [...wing(0.45), to.x, to.y, ...wing(-0.45)];
}
