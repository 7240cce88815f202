import type { Area } from "#core/areas/areas";
import type { Found } from "#core/finding/found";
import type { RungReading } from "#core/finding/reading";
import { lengthOf } from "#core/marks/shown";
import type { Outline } from "#core/written/outline";

/** One line of a day plan, at its price. */
export interface PlanLine {
  /** Tells it from the others. */
  key: string;
  what: "proposal" | "mark" | "shift" | "area" | "yesterday" | "scenario";
  name: string;
  /** Longest first. */
  rungs: string[];
  bottom: number;
  top: number;
  grade?: number;
  /** What the machine offers, to be taken over. */
  fact?: Found;
}

/** The band about the middle of yesterday's range, of its share from the bottom (common practice, no source). */
export const MIDDLE = { bottom: 0.382, top: 0.618 };

/** A price further away than this many usual days does not matter today (definition our own). */
const REACH = 1.5;

/** Yesterday's extremes and the band about its middle. */
export function yesterdayLines(day: { bottom: number; top: number } | undefined): PlanLine[] {
  if (!day) return [];
  const height = day.top - day.bottom;
  const line = (name: string, bottom: number, top: number): PlanLine => ({
    key: `yesterday ${name}`,
    what: "yesterday",
    name,
    rungs: ["P1D"],
    bottom,
    top,
  });
  return [
    line("Yesterday's high", day.top, day.top),
    line("Middle of yesterday, 38.2 to 61.8 %", day.bottom + MIDDLE.bottom * height, day.bottom + MIDDLE.top * height),
    line("Yesterday's low", day.bottom, day.bottom),
  ];
}

/** Where the next close would shift the rungs; those that one price would shift are one line. */
export function shiftLines(readings: readonly Pick<RungReading, "rung" | "trend">[]): PlanLine[] {
  const byPrice = new Map<string, PlanLine>();
  for (const { rung, trend } of readings) {
    if (!trend) continue;
    const { price } = trend.line;
    const way = trend.way === "up" ? "down" : "up";
    const line = byPrice.get(`${way} ${price}`);
    if (line) line.rungs.push(rung);
    else
      byPrice.set(`${way} ${price}`, {
        key: `shift ${way} ${price}`,
        what: "shift",
        name: `Structure shifts ${way} by a close beyond`,
        rungs: [rung],
        bottom: price,
        top: price,
      });
  }
  return [...byPrice.values()];
}

export function areaLines(areas: readonly (Area & { own: boolean })[]): PlanLine[] {
  return areas.map(({ bottom, top, weight, rungs, own }) => ({
    key: `area ${bottom} ${top}`,
    what: "area" as const,
    name: `${own ? "Area" : "Area of proposals"}, weight ${weight.toFixed(1)}`,
    rungs,
    bottom,
    top,
  }));
}

/** The prices of scenarios, by what is done there. */
export function scenarioLines(
  scenarios: readonly (Pick<Outline, "prices"> & { id: string; title: string })[],
): PlanLine[] {
  return scenarios.flatMap(({ id, title, prices }) =>
    prices.map(({ field, what, price, about }) => ({
      key: `scenario ${id} ${field}`,
      what: "scenario" as const,
      name: `${SCENARIO[what]}${about ? ", about" : ""}: ${title}`,
      rungs: [],
      bottom: price,
      top: price,
    })),
  );
}

const SCENARIO = { entry: "Enter", stop: "Stop", target: "Target", wrong: "\u00d7 Wrong" };

/** Facts of rungs shorter than this come and go within the day: they are no part of its plan. */
const SHORTEST = 15 * 60_000;

/**
 * What the machine offers for a day: everything but what structure has done already, and what the shortest rungs alone
 * say.
 */
export function proposalLines(facts: readonly Found[]): PlanLine[] {
  const lasting = facts.filter(
    ({ step, lineage }) => step !== "structure" && lineage.some(({ rung }) => lengthOf(rung) >= SHORTEST),
  );
  return lasting.map((fact) => ({
    key: fact.key,
    what: "proposal" as const,
    name: fact.name,
    rungs: [...new Set(fact.lineage.map(({ rung }) => rung))],
    bottom: fact.bottom,
    top: fact.top,
    grade: fact.grade,
    fact,
  }));
}

/** Lines without those that only repeat the price of a mark or a proposal beside them. */
export function withoutRepeats(lines: readonly PlanLine[]): PlanLine[] {
  const said = lines.filter(({ what, bottom, top }) => (what === "mark" || what === "proposal") && bottom === top);
  return lines.filter(
    (line) =>
      line.what !== "yesterday" ||
      line.bottom !== line.top ||
      !said.some(({ bottom, name }) => bottom === line.bottom && /^Previous day/.test(name)),
  );
}

/**
 * The lines that price may come to today, from high to low by the edge that is nearest to it, and how many lie further
 * away.
 */
export function withinReach(
  lines: readonly PlanLine[],
  price: number,
  usualRange: number,
): { lines: PlanLine[]; further: number } {
  const reach = REACH * usualRange;
  const near = lines.filter(({ bottom, top }) => top >= price - reach && bottom <= price + reach);
  const edge = ({ bottom, top }: PlanLine) => (bottom > price ? bottom : top < price ? top : price);
  return {
    lines: near.sort((a, b) => edge(b) - edge(a) || b.top - a.top || a.key.localeCompare(b.key)),
    further: lines.length - near.length,
  };
}
