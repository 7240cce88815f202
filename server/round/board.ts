import { Op } from "sequelize";
import type { Direction } from "#core/marks/bearing";
import { bearingsOf } from "#core/marks/bearing";
import type { Mark, MarketFacts } from "#core/marks/kind";
import { summaryOf } from "#core/finding/reading";
import type { Cell } from "#core/round/walk";
import type { Standing } from "#core/round/standing";
import { closeOfBar } from "#core/series/resample";
import { tradableRungs, type RungSet } from "#core/time/rungs";
import { calendarOf, factsOf, findMarket } from "../bars/markets.ts";
import { readTimeframe } from "../bars/timeframes.ts";
import { LookRow, MarkRow, Market } from "../database/models.ts";
import { readClock } from "../clock.ts";
import { findingParamsOf } from "../desk/findingParams.ts";
import { keptSummaries, presentReadings, type HeldSummary } from "../desk/readings.ts";
import { rungSetsOf } from "../desk/rungSets.ts";
import { eventsTouching, type TouchingEvent } from "../events/events.ts";
import { callsOf, type Call } from "./calls.ts";
import { listOf, type ListName } from "./lists.ts";
import { lastRemarks, openRoundOf, type OpenRound, type SaidVerdict } from "./rounds.ts";
import { keptStandings, presentStanding, type HeldStanding } from "./standings.ts";

/** One rung of one market on the board. */
export interface BoardCell extends Cell {
  close: number | undefined;
  /** The analyst's own bearing where there is one, otherwise the machine's. */
  direction: Direction;
  own: boolean;
  machine: Direction;
  /** Whether structure shifted in one of the last three bars, and the close that would shift it next. */
  shifted: boolean;
  shiftAt: number | undefined;
}

export interface BoardRow extends MarketFacts {
  kind: string;
  /** In the order of the set; nothing where it has to be worked out. */
  cells: (BoardCell | null)[];
  standing: Standing | null;
  /** Until when all of it holds. */
  validUntil: number;
  /** Said in the round that is on. */
  verdict: SaidVerdict | null;
  /** The last words on it before that round. */
  before: SaidVerdict | null;
  events: TouchingEvent[];
  /** Its scenarios, the preferred first. */
  calls: Call[];
}

export interface Board {
  set: Pick<RungSet, "id" | "name" | "walk">;
  rungs: string[];
  tradable: string[];
  list: ListName;
  lists: ListName[];
  rows: BoardRow[];
  /** There is no market at all, in this list or another. */
  empty: boolean;
  round: OpenRound | null;
  /** Rounds begun on this trading day by the market's clock, in UTC. */
  today: number;
  now: number;
}

/**
 * Every market of a list on every rung of the analyst's set, from what is kept: rows that lack something are asked for
 * one by one.
 */
export async function boardOf(accountId: string, listId = ""): Promise<Board> {
  const [{ list, lists, markets }, { chosen }, { now }] = await Promise.all([
    listOf(accountId, listId),
    rungSetsOf(accountId),
    readClock(),
  ]);
  const rungs = chosen.rungs.map(({ rung }) => rung);
  const params = await findingParamsOf(accountId, chosen.id);
  const [summaries, standings, rest, { round, today }] = await Promise.all([
    keptSummaries(markets, rungs, params),
    keptStandings(markets, rungs, params),
    restOf(accountId, markets, now),
    openRoundOf(accountId, list.id, now),
  ]);
  const remarks = await lastRemarks(accountId, round?.id);
  const rows = markets.map((market) =>
    rowOf(
      market,
      rungs,
      summaries.get(market.id) ?? [],
      standings.get(market.id),
      rest,
      round?.verdicts[market.id] ?? null,
      remarks.get(market.id) ?? null,
    ),
  );
  return {
    set: { id: chosen.id, name: chosen.name, walk: chosen.walk },
    rungs,
    tradable: inWalk(chosen),
    list,
    lists,
    rows,
    empty: rows.length === 0 && (await Market.count()) === 0,
    round,
    today,
    now,
  };
}

/** One market's row, up to date. */
export async function boardRow(marketId: string, accountId: string, listId = ""): Promise<BoardRow> {
  const [market, { chosen }, { now }] = await Promise.all([findMarket(marketId), rungSetsOf(accountId), readClock()]);
  const rungs = chosen.rungs.map(({ rung }) => rung);
  const params = await findingParamsOf(accountId, chosen.id);
  const held = await presentReadings(market, rungs, params, now);
  const standing = await presentStanding(market, held, rungs, params);
  const { round } = await openRoundOf(accountId, listId, now);
  const [rest, remarks] = await Promise.all([restOf(accountId, [market], now), lastRemarks(accountId, round?.id)]);
  const row = rowOf(
    market,
    rungs,
    held.map(({ reading, validUntil }) => ({ summary: summaryOf(reading), validUntil })),
    standing,
    rest,
    round?.verdicts[market.id] ?? null,
    remarks.get(market.id) ?? null,
  );
  // Where a bar is overdue nothing will be known before one comes: it is looked for now and then.
  return { ...row, validUntil: Math.max(row.validUntil, now + OVERDUE) };
}

/** How long what was just worked out holds on a market whose feed stands. */
const OVERDUE = 60_000;

function inWalk(set: RungSet): string[] {
  const rungs = tradableRungs(set);
  return set.walk === "down" ? rungs : rungs.reverse();
}

interface Rest {
  looks: Map<string, number>;
  bearings: Map<string, Mark[]>;
  events: Map<string, TouchingEvent[]>;
  calls: Map<string, Call[]>;
}

/** What a row has besides what bars say: looks, the analysts' own bearings, events. */
async function restOf(accountId: string, markets: readonly Market[], now: number): Promise<Rest> {
  const marketId = { [Op.in]: markets.map(({ id }) => id) };
  const [looks, marks, events, calls] = await Promise.all([
    LookRow.findAll({ where: { accountId, marketId }, raw: true }),
    MarkRow.findAll({
      where: { kind: "bearing", removed: false, marketId },
      attributes: ["id", "marketId", "rung", "kind", "anchors", "props"],
    }),
    eventsTouching(markets, now),
    callsOf(markets.map(({ id }) => id)),
  ]);
  const bearings = new Map<string, Mark[]>();
  for (const { id, marketId: market, rung, kind, anchors, props } of marks)
    bearings.set(market, [
      ...(bearings.get(market) ?? []),
      { id, kind, market, rung, anchors, props, note: "", author: "", version: 0 },
    ]);
  return {
    looks: new Map(looks.map(({ marketId: market, rung, lookedAt }) => [`${market} ${rung}`, lookedAt])),
    bearings,
    events,
    calls,
  };
}

function rowOf(
  market: Market,
  rungs: readonly string[],
  held: readonly HeldSummary[],
  standing: HeldStanding | undefined,
  { looks, bearings, events, calls }: Rest,
  verdict: SaidVerdict | null,
  before: SaidVerdict | null,
): BoardRow {
  const calendar = calendarOf(market);
  const own = bearingsOf(bearings.get(market.id) ?? []);
  const cells = rungs.map((rung): BoardCell | null => {
    const found = held.find(({ summary }) => summary.rung === rung);
    if (!found) return null;
    const { close, until, bearing, shifted, shiftAt } = found.summary;
    const said = own.get(rung)?.props.direction;
    return {
      market: market.id,
      rung,
      close,
      closedAt: until === undefined ? undefined : closeOfBar(until, readTimeframe(rung), calendar),
      closesAt: until === undefined ? undefined : found.validUntil,
      lookedAt: looks.get(`${market.id} ${rung}`),
      direction: said ?? bearing.direction,
      own: said !== undefined,
      machine: bearing.direction,
      shifted,
      shiftAt,
    };
  });
  const current = standing && standing.marked === market.marked;
  const ends = held.filter(({ summary }) => summary.until !== undefined).map(({ validUntil }) => validUntil);
  const validUntil = current ? Math.min(standing.validUntil || Infinity, ...ends) : 0;
  return {
    ...factsOf(market),
    kind: market.kind,
    cells,
    standing: standing?.standing ?? null,
    validUntil: Number.isFinite(validUntil) ? validUntil : 8e15,
    verdict,
    before,
    events: events.get(market.id) ?? [],
    calls: calls.get(market.id) ?? [],
  };
}
