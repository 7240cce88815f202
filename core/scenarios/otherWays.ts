import type { ClosedBar } from "#core/observe/closedBar";
import { atOpen, standing, throughBar, trailed, type Orders, type Trade } from "#core/scenarios/trade";

/** What became of a trade on the ways that were not counted. */
export interface Others {
  /** The most that one of those that have ended made; none while none has. */
  done: number | null;
  /** Those that go on. */
  open: readonly Trade[];
}

/**
 * Shows a bar to every trade of the other ways: each goes on by all ways of its own. Of alike ones the best is kept.
 */
export function otherWays(orders: Orders, { done, open }: Others, told: ClosedBar, line: number | undefined): Others {
  const best = new Map<string, Trade>();
  let most = done;
  for (const trade of open) {
    const opened = atOpen(orders, standing(orders, trade), told.open).trade;
    const { counted, others } = throughBar(orders, opened, told);
    for (const course of [counted, ...others]) {
      const next = trailed(orders, course.trade, told.close, line);
      if (next.phase === "done") most = Math.max(most ?? -Infinity, next.realised);
      else keepBest(best, next);
    }
  }
  return { done: most, open: [...best.values()] };
}

function keepBest(best: Map<string, Trade>, trade: Trade): void {
  const { phase, fill, stop, hit, free, moved } = trade;
  const key = `${phase} ${fill} ${stop} ${hit} ${free} ${moved}`;
  const known = best.get(key);
  if (!known || trade.realised > known.realised) best.set(key, trade);
}
