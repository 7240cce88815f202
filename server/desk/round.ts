import type { RungSummary } from "#core/finding/reading";
import { findMarket, listMarkets } from "../bars/markets.ts";
import type { Market } from "../database/models.ts";
import { readClock } from "../feed/clock.ts";
import { findingParamsOf } from "./findingParams.ts";
import { keptSummaries, summariesOf } from "./readings.ts";
import { rungSetsOf } from "./rungSets.ts";

export interface BoardRow {
  id: string;
  name: string;
  decimals: number;
  /** What its rungs say, in the order of the set; nothing where it has to be worked out. */
  cells: (RungSummary | null)[];
}

export interface Board {
  rungs: string[];
  rows: BoardRow[];
  now: number;
}

/** Every market on every rung of the analyst's set, from what is kept: rows that lack something are asked for one by one. */
export async function boardOf(accountId: string): Promise<Board> {
  const [markets, { chosen }, { now }] = await Promise.all([listMarkets(), rungSetsOf(accountId), readClock()]);
  const rungs = chosen.rungs.map(({ rung }) => rung);
  const kept = await keptSummaries(markets, rungs, await findingParamsOf(accountId, chosen.id), now);
  return { rungs, now, rows: markets.map((market) => row(market, rungs, kept.get(market.id) ?? [])) };
}

/** One market's row, up to date. */
export async function boardRow(marketId: string, accountId: string): Promise<BoardRow> {
  const [market, { chosen }] = await Promise.all([findMarket(marketId), rungSetsOf(accountId)]);
  const rungs = chosen.rungs.map(({ rung }) => rung);
  return row(market, rungs, await summariesOf(market, rungs, await findingParamsOf(accountId, chosen.id)));
}

function row({ id, name, decimals }: Market, rungs: readonly string[], summaries: readonly RungSummary[]): BoardRow {
  return { id, name, decimals, cells: rungs.map((rung) => summaries.find((one) => one.rung === rung) ?? null) };
}
