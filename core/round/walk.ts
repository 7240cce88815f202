/** A place of the round: one rung of one market. */
export interface Stop {
  market: string;
  rung: string;
}

/** A cell of the board as far as looking at it goes. */
export interface Cell extends Stop {
  /** Close of its last closed bar; none where there is no bar. */
  closedAt: number | undefined;
  /** When its next bar closes. */
  closesAt: number | undefined;
  lookedAt: number | undefined;
}

/** Whether a candle closed since the last look, or it was never looked at. */
export function isDue({ closedAt, lookedAt }: Pick<Cell, "closedAt" | "lookedAt">): boolean {
  return closedAt !== undefined && (lookedAt === undefined || lookedAt < closedAt);
}

/** The stops of a round: every market in the order of the list, and on each the rungs in the order they are walked. */
export function stopsOf(markets: readonly string[], rungs: readonly string[]): Stop[] {
  return markets.flatMap((market) => rungs.map((rung) => ({ market, rung })));
}

/**
 * The stop after one, in the order of the round; of those that pass `wanted` only. From no stop the first; `undefined`
 * at the end. `step` is 1 for on and -1 for back.
 */
export function nextStop(
  stops: readonly Stop[],
  from: Stop | undefined,
  wanted: (stop: Stop) => boolean = () => true,
  step: 1 | -1 = 1,
): Stop | undefined {
  let at = from
    ? stops.findIndex(({ market, rung }) => market === from.market && rung === from.rung)
    : step > 0
      ? -1
      : stops.length;
  if (from && at < 0) at = step > 0 ? -1 : stops.length;
  for (let i = at + step; i >= 0 && i < stops.length; i += step) if (wanted(stops[i])) return stops[i];
  return undefined;
}

/** The first stop of the next market, or of the one before. */
export function nextMarket(stops: readonly Stop[], from: Stop, step: 1 | -1 = 1): Stop | undefined {
  const markets = [...new Set(stops.map(({ market }) => market))];
  const market = markets[markets.indexOf(from.market) + step];
  return market === undefined ? undefined : stops.find((stop) => stop.market === market);
}

/** How much of a round is done: its stops that were looked at, and the markets none of whose stops is left. */
export function doneOf(
  stops: readonly Stop[],
  isLooked: (stop: Stop) => boolean,
): { looked: number; of: number; markets: number; ofMarkets: number } {
  const left = stops.filter((stop) => !isLooked(stop));
  const all = new Set(stops.map(({ market }) => market));
  return {
    looked: stops.length - left.length,
    of: stops.length,
    markets: all.size - new Set(left.map(({ market }) => market)).size,
    ofMarkets: all.size,
  };
}

export interface Closing {
  at: number;
  rungs: string[];
  markets: string[];
}

/** What closes next: instants after `now`, soonest first, with the rungs and markets whose bars close then. */
export function closingNext(cells: readonly Cell[], now: number, count: number): Closing[] {
  const byTime = new Map<number, Closing>();
  for (const { market, rung, closesAt } of cells) {
    if (closesAt === undefined || closesAt <= now) continue;
    const closing = byTime.get(closesAt) ?? { at: closesAt, rungs: [], markets: [] };
    byTime.set(closesAt, closing);
    if (!closing.rungs.includes(rung)) closing.rungs.push(rung);
    if (!closing.markets.includes(market)) closing.markets.push(market);
  }
  return [...byTime.values()].sort((a, b) => a.at - b.at).slice(0, count);
}
