import type { Market } from "../database/models.ts";
import { holdingsOf, type Holding } from "./layers.ts";
import { listMarkets } from "./markets.ts";
import { seriesOf } from "./series.ts";

/** What a list of markets says at once, without a bar being read. */
export interface MarketLine {
  id: string;
  name: string;
  kind: string;
  zone: string;
  decimals: number;
  derived: boolean;
  /** What is stored, the longest resolution first; nothing for a derived market. */
  holdings: Holding[];
}

/** What it says once its days have been read. */
export interface MarketDays {
  id: string;
  close?: number;
  /** Change on the day before, as a share. */
  change?: number;
  /** The last closes, for a sketch in ink. */
  sketch: number[];
}

const SKETCHED = 80;

export async function marketLines(): Promise<MarketLine[]> {
  const [markets, holdings] = await Promise.all([listMarkets(), holdingsOf()]);
  return markets.map(({ id, name, kind, calendar, decimals, formula }) => ({
    id,
    name,
    kind,
    zone: calendar.zone,
    decimals,
    derived: formula !== null,
    holdings: holdings
      .filter(({ marketId }) => marketId === id)
      .map(({ base, bars, from, to, bytes }) => ({ base, bars, from, to, bytes })),
  }));
}

export async function marketDays(): Promise<MarketDays[]> {
  return Promise.all((await listMarkets()).map(daysOf));
}

async function daysOf(market: Market): Promise<MarketDays> {
  const { close, length: n } = await seriesOf(market, "P1D");
  const line = { id: market.id, sketch: [...close.slice(-SKETCHED)] };
  return n === 0
    ? line
    : { ...line, close: close[n - 1], ...(n > 1 ? { change: close[n - 1] / close[n - 2] - 1 } : {}) };
}
