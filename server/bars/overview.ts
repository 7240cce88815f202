import { seriesOf } from "./series.ts";
import { listMarkets } from "./markets.ts";

export interface MarketLine {
  id: string;
  name: string;
  kind: string;
  zone: string;
  decimals: number;
  /** Daily bars, and the label of the first. */
  days: number;
  since?: number;
  close?: number;
  /** Change on the day before, as a share. */
  change?: number;
  /** The last closes, for a sketch in ink. */
  sketch: number[];
}

const SKETCHED = 80;

/** Every market with what a list of them needs to say. */
export async function overview(): Promise<MarketLine[]> {
  const markets = await listMarkets();
  return Promise.all(
    markets.map(async (market) => {
      const { id, name, kind, decimals } = market;
      const series = await seriesOf(market, "P1D");
      const n = series.length;
      const line = { id, name, kind, decimals, zone: market.calendar.zone, days: n, sketch: [...series.close.slice(-SKETCHED)] };
      if (n === 0) return line;
      const change = n > 1 ? series.close[n - 1] / series.close[n - 2] - 1 : 0;
      return { ...line, since: series.time[0], close: series.close[n - 1], change };
    }),
  );
}
