import type { Area } from "#core/areas/areas";
import type { Found } from "#core/finding/found";
import type { RungReading } from "#core/finding/reading";

/** One line of a day plan, at its price. */
export interface PlanLine {
  /** Tells it from the others. */
  key: string;
  what: "proposal" | "mark" | "shift" | "area" | "yesterday";
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
  const line = (name: string, bottom: number, top: number): PlanLine => ({ key: `yesterday ${name}`, what: "yesterday", name, rungs: ["P1D"], bottom, top });
  return [line("Yesterday's high", day.top, day.top), line("Middle of yesterday, 38.2 to 61.8 %", day.bottom + MIDDLE.bottom * height, day.bottom + MIDDLE.top * height), line("Yesterday's low", day.bottom, day.bottom)];
}

/** Where the next close would shift each rung. */
export function shiftLines(readings: readonly Pick<RungReading, "rung" | "trend">[]): PlanLine[] {
  return readings.flatMap(({ rung, trend }) => (trend ? [{ key: `shift ${rung}`, what: "shift" as const, name: `Shifts ${trend.way === "up" ? "down" : "up"} by a close beyond`, rungs: [rung], bottom: trend.line.price, top: trend.line.price }] : []));
}

export function areaLines(areas: readonly (Area & { own: boolean })[]): PlanLine[] {
  return areas.map(({ bottom, top, weight, rungs, own }) => ({ key: `area ${bottom} ${top}`, what: "area" as const, name: `${own ? "Area" : "Area of proposals"}, weight ${weight.toFixed(1)}`, rungs, bottom, top }));
}

/** What the machine offers for a day: everything but what structure has done already. */
export function proposalLines(facts: readonly Found[]): PlanLine[] {
  return facts.filter(({ step }) => step !== "structure").map((fact) => ({ key: fact.key, what: "proposal" as const, name: fact.name, rungs: [...new Set(fact.lineage.map(({ rung }) => rung))], bottom: fact.bottom, top: fact.top, grade: fact.grade, fact }));
}

/** The lines that price may come to today, from high to low, and how many lie further away. */
export function withinReach(lines: readonly PlanLine[], price: number, usualRange: number): { lines: PlanLine[]; further: number } {
  const reach = REACH * usualRange;
  const near = lines.filter(({ bottom, top }) => top >= price - reach && bottom <= price + reach);
  return { lines: near.sort((a, b) => b.top + b.bottom - a.top - a.bottom || a.key.localeCompare(b.key)), further: lines.length - near.length };
}
