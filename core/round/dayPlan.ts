import { areasOf, onGrid, type Area } from "#core/areas/areas";
import { FEW_AREAS, fewAreas } from "#core/areas/few";
import { byNearness } from "#core/finding/findings";
import { placesOf, type Found } from "#core/finding/found";
import type { RungReading } from "#core/finding/reading";
import { lengthOf } from "#core/marks/shown";
import type { Outline } from "#core/written/outline";

/** One thing a day may come to, at its price. */
export interface PlanLine {
  /** Tells it from the others. */
  key: string;
  what: "proposal" | "mark" | "shift" | "yesterday" | "scenario";
  name: string;
  /** Longest first. */
  rungs: string[];
  bottom: number;
  top: number;
  /** Kind of mark it is, or would be. */
  kind?: string;
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
    kind: fact.kind,
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

/** Lines that meet at a price: what a day plan and an evening speak of. */
export interface PlanArea {
  key: string;
  bottom: number;
  top: number;
  /** Longest first. */
  rungs: string[];
  /** What was said before what was found, then the longest rung first; each fact once. */
  lines: PlanLine[];
}

/** What areas are made and chosen by. */
export interface PlanGround {
  price: number;
  tick: number;
  /** ATR of the day: how far is near. */
  unit: number;
  /** ATR of a rung. */
  atrOf(rung: string): number;
  /** Whether lines of its kind fared better than chance here. */
  isBetter(line: PlanLine): boolean;
}

/** Lines as areas. */
export interface PlanAreas {
  /** The few that matter, and the rest; both from high to low. */
  areas: PlanArea[];
  rest: PlanArea[];
  /** Wide bands that price is inside of: where it stands, not where it may come to. Longest rung first. */
  within: PlanLine[];
}

/** A band reaches into an area this far from the edge price comes to first, in ATR of the day (definition our own). */
const MET = 0.25;

/**
 * Lines by the areas they make where price would meet them: of a high band only what lies at its near edge, for a zone
 * of a year would hold everything else.
 */
export function planAreas(
  lines: readonly PlanLine[],
  { price, tick, unit, atrOf, isBetter }: PlanGround,
  most = FEW_AREAS,
): PlanAreas {
  const reach = MET * unit;
  const isWithin = ({ bottom, top }: PlanLine) => bottom < price && top > price && top - bottom > 2 * reach;
  const within = lines.filter(isWithin).sort((a, b) => longest(b) - longest(a) || a.key.localeCompare(b.key));
  const met = lines.filter((line) => !isWithin(line)).map((line) => ({ ...line, ...metOf(line, price, reach) }));
  const byKey = new Map(lines.map((line) => [line.key, line]));
  const bands = met.map(({ key, name, rungs: [rung = "P1D"], bottom, top, what, kind = what, fact }) => ({
    ...{ id: key, name, rung, bottom, top, kind, atr: atrOf(rung) },
    freshness: Math.max(LEAST_WEIGHT, fact?.freshness ?? 1),
    sources: fact?.sources ?? [],
  }));
  const areas = areasOf(bands, true).map((area): PlanArea => {
    const { bottom, top } = onGrid(area, tick);
    const own = area.reasons.flatMap(({ id }) => byKey.get(id) ?? []);
    own.sort((a, b) => FIRST[a.what] - FIRST[b.what] || longest(b) - longest(a));
    return { key: `${own.map(({ key }) => key).sort()[0]}`, bottom, top, rungs: area.rungs, lines: own };
  });
  const { few, rest } = fewAreas(
    areas,
    price,
    unit,
    (area) => ({
      rests: area.lines.some(({ what, kind }) => what === "scenario" || kind === "count"),
      better: area.lines.some(isBetter),
    }),
    most,
  );
  return { areas: few, rest, within };
}

/** Offers that are read for areas: those nearest to price. */
const OFFERED = 60;

/** The few areas that what the machine offers makes, from low to high as any areas are, their reasons the offers. */
export function offeredAreas(facts: readonly Found[], ground: Omit<PlanGround, "isBetter">): Area[] {
  const lines = proposalLines(byNearness(placesOf(facts), ground.price).slice(0, OFFERED));
  const { areas } = planAreas(lines, { ...ground, isBetter: () => false });
  return areas.toReversed().map(({ lines: own, ...area }) => ({
    ...area,
    weight: own.length,
    reasons: own.map(({ key, name, rungs: [rung], bottom, top }) => ({ id: key, name, rung, bottom, top, weight: 1 })),
  }));
}

/** What of a band lies where price comes to it first. */
function metOf({ bottom, top }: PlanLine, price: number, reach: number): { bottom: number; top: number } {
  if (bottom > price) return { bottom, top: Math.min(top, bottom + reach) };
  return top < price ? { bottom: Math.max(bottom, top - reach), top } : { bottom, top };
}

/** What is used up weighs nothing as a reason, and is still a line. */
const LEAST_WEIGHT = 0.01;

/** What is done at a price and what the analyst marked come before what is offered and what yesterday left. */
const FIRST: Readonly<Record<PlanLine["what"], number>> = { scenario: 0, mark: 1, shift: 2, proposal: 2, yesterday: 2 };

const longest = ({ rungs }: PlanLine): number => Math.max(0, ...rungs.map(lengthOf));

/** The lines that price may come to today, and how many lie further away. */
export function withinReach(
  lines: readonly PlanLine[],
  price: number,
  usualRange: number,
): { lines: PlanLine[]; further: number } {
  const reach = REACH * usualRange;
  const near = lines.filter(({ bottom, top }) => top >= price - reach && bottom <= price + reach);
  return { lines: near, further: lines.length - near.length };
}
