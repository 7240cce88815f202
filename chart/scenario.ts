import type { MarketFacts } from "#core/marks/kind";
import { priceText } from "#core/marks/wording";
import type { Scenario } from "#core/scenarios/scenario";
import type { Scale } from "./scale.ts";
import type { Shape } from "./shapes.ts";

/** Every price that a picture of a scenario must show. */
export function scenarioPrices({ stop, invalidation, targets }: Scenario): number[] {
  return [stop, invalidation, ...targets.map(({ price }) => price)];
}

/**
 * A scenario as a path into the future's room: from the last close by the trigger to the entry, on to each target. The
 * stop and the price that proves it wrong are ink: a short bar and a cross.
 */
export function drawScenario(
  scenario: Scenario,
  scale: Scale,
  last: number,
  close: number,
  market: MarketFacts,
): Shape[] {
  const { plot } = scale;
  const room = plot.left + plot.width - 8 - scale.x(last);
  if (room < 30) return [];
  const points = [close, scenario.trigger.price, scenario.entry.price, ...scenario.targets.map(({ price }) => price)];
  const kept = points.filter((price, i) => i === 0 || price !== points[i - 1]);
  const path = kept.map((price, i) => ({ x: scale.x(last) + (room * i) / (kept.length - 1 || 1), y: scale.y(price) }));
  const [tail, head] = path.slice(-2);
  const line: number[] = path.flatMap(({ x, y }) => [x, y]);
  const short = (price: number, from: number) => [
    from,
    Math.round(scale.y(price)) + 0.5,
    plot.left + plot.width,
    Math.round(scale.y(price)) + 0.5,
  ];
  const middle = scale.x(last) + room * 0.3;
  return [
    { kind: "path", paths: [line], stroke: "carmine", width: 1.8 },
    ...(tail && head
      ? [{ kind: "path" as const, paths: [arrowHead(tail, head)], stroke: "carmine" as const, width: 1.8 }]
      : []),
    { kind: "path", paths: [short(scenario.stop, middle)], stroke: "ink", width: 1.4 },
    label(
      `stop ${priceText(scenario.stop, market)}`,
      plot.left + plot.width - 6,
      scale.y(scenario.stop),
      scenario.direction === "long" ? "top" : "bottom",
    ),
    ...(scenario.invalidation === scenario.stop
      ? []
      : [
          label(
            `\u00d7 wrong ${priceText(scenario.invalidation, market)}`,
            plot.left + plot.width - 6,
            scale.y(scenario.invalidation),
            scenario.direction === "long" ? "top" : "bottom",
          ),
        ]),
  ];
}

function label(text: string, x: number, y: number, baseline: "top" | "bottom"): Shape {
  return {
    kind: "text",
    x,
    y: y + (baseline === "top" ? 3 : -3),
    text,
    color: "ink",
    size: 11,
    movable: true,
    align: "right",
    baseline,
    halo: "paper",
  };
}

function arrowHead(from: { x: number; y: number }, to: { x: number; y: number }): number[] {
  const angle = Math.atan2(to.y - from.y, to.x - from.x);
  const wing = (turn: number) => [to.x - 10 * Math.cos(angle + turn), to.y - 10 * Math.sin(angle + turn)];
  return [...wing(0.45), to.x, to.y, ...wing(-0.45)];
}
