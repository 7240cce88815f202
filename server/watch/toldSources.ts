import { isDeepStrictEqual } from "node:util";
import { FINDING_DEFAULTS } from "#core/finding/params";
import { closedBars } from "#core/observe/closedBars";
import { asInstant, EVER, type Instant } from "#core/observe/instant";
import type { Need } from "#core/observe/tape";
import { warmFrom } from "#core/observe/warm";
import { wholeNeeds } from "#core/scenarios/legs";
import type { Layer } from "#core/series/layers";
import type { Calendar } from "#core/time/calendar";
import { layersOf } from "../bars/layers.ts";
import { calendarOf } from "../bars/markets.ts";
import { Market } from "../database/models.ts";
import type { ToldFacts } from "../record/told/page.ts";
import { needsAt, type Call } from "../record/told/replay.ts";
import type { ToldRow } from "../record/told/rows.ts";

/** What bars of a market are told from, and from when on. */
export interface Source {
  layers: readonly Layer[];
  calendar: Calendar;
  after: Instant;
}

export async function sourceOf(id: string, after: number, known?: Market): Promise<Source> {
  const market = known ?? (await Market.findByPk(id));
  if (!market) return { layers: [], calendar: NO_CALENDAR, after: EVER };
  return { layers: await layersOf(market), calendar: calendarOf(market), after: asInstant(after) };
}

const NO_CALENDAR = calendarOf({ calendar: { zone: "UTC", sessions: [] } });

/** Bars in the order they are told: before each own bar those of the markets beside that were known by its close. */
export function* toldRows(own: Source, others: readonly Source[], until: number): Generator<ToldRow> {
  const after = others.map((other) => other.after);
  for (const bar of closedBars(own.layers, own.calendar, own.after, asInstant(until))) {
    for (const [i, other] of others.entries())
      for (const beside of closedBars(other.layers, other.calendar, after[i], bar.to)) {
        yield { who: i + 1, bar: beside };
        after[i] = beside.to;
      }
    yield { who: 0, bar };
  }
}

/** How far back the last stored bar is looked for first (ms). */
const LOOK_BACK = 7 * 86_400_000;

/** Up to when a market's stored bars had closed by an instant; that instant itself where it has none. */
export async function endOfStored(market: Market, until: number): Promise<number> {
  const { layers, calendar } = await sourceOf(market.id, -Infinity, market);
  let end = -Infinity;
  for (const bar of closedBars(layers, calendar, asInstant(until - LOOK_BACK), asInstant(until))) end = bar.to;
  if (end === -Infinity) for (const bar of closedBars(layers, calendar, EVER, asInstant(until))) end = bar.to;
  return end === -Infinity ? until : end;
}

const orNull = (from: number) => (Number.isFinite(from) ? from : null);

/** What a generation must begin with for these calls to go on from an instant. */
export async function factsFor(market: Market, calls: readonly Call[], through: number): Promise<ToldFacts> {
  const needs = calls.flatMap(({ terms }) => wholeNeeds(terms));
  const names = [...new Set(needs.flatMap(({ market: name }) => name ?? []))].sort();
  const others = names.length === 0 ? [] : await Market.findAll({ where: { id: names }, order: [["id", "ASC"]] });
  const of = (one: Market, own: readonly Need[]) => ({
    market: one.id,
    tick: one.tick,
    calendar: one.calendar,
    history: one.history,
    from: orNull(warmFrom(own, asInstant(through), calendarOf(one))),
  });
  const own = of(
    market,
    needs.filter((need) => need.market === undefined),
  );
  return {
    ...own,
    k: FINDING_DEFAULTS.k,
    // As far back as the market itself is told, and as far before that as its own rungs need.
    also: others.map((other) => {
      const { from, ...facts } = of(other, needsAt(other.id, needs));
      return { ...facts, from: from === null || own.from === null ? null : Math.min(from, own.from) };
    }),
  };
}

/** Whether a generation that began with some facts holds all that others ask for. */
export function holds(before: ToldFacts, asked: ToldFacts): boolean {
  type One = Pick<ToldFacts, "market" | "tick" | "calendar" | "history" | "from">;
  const reads = (a: One | undefined, b: One) =>
    a?.tick === b.tick &&
    a.history === b.history &&
    isDeepStrictEqual(a.calendar, b.calendar) &&
    (a.from === null || (b.from !== null && a.from <= b.from));
  return (
    before.k === asked.k &&
    reads(before, asked) &&
    asked.also.every((other) =>
      reads(
        before.also.find(({ market }) => market === other.market),
        other,
      ),
    )
  );
}
