import type { Quiet } from "#core/observe/watcher";
import type { ScenarioState } from "#core/scenarios/run";
import type { ScenarioTerms } from "#core/scenarios/terms";
import { restingBand, type Orders } from "#core/scenarios/trade";

/** What of a scenario tells when it can be let alone: the rung it listens to, where it is wrong, its prices. */
interface Known {
  /** The rung at whose closes alone something may change before its trigger; none where other bars may change it. */
  rung: string | undefined;
  wrong: number | undefined;
  sign: 1 | -1;
  tolerance: number;
  /** Its orders, where no bar changes their prices. */
  orders(): Orders | undefined;
}

const NO_RUNGS: readonly string[] = [];

/** Which bars change nothing: of one that waits for closes of its rung, and of an order that rests. */
export function quietOf(
  terms: ScenarioTerms,
  { phase, others, trade }: ScenarioState,
  known: Known,
): Quiet | undefined {
  const { while: holds, unless, trail, expires: before } = terms;
  const { rung, wrong, sign, tolerance } = known;
  if (others) return undefined;
  if (phase === "waiting" && rung !== undefined) {
    const over = wrong !== undefined && sign > 0 ? wrong : -Infinity;
    const under = wrong !== undefined && sign < 0 ? wrong : Infinity;
    return { rungs: [rung], over, under, before };
  }
  if (phase !== "armed" || !trade || trail || holds.length + unless.length > 0) return undefined;
  const orders = known.orders();
  const band = orders && restingBand(orders);
  return band && { rungs: NO_RUNGS, over: band.over + 2 * tolerance, under: band.under - 2 * tolerance, before };
}
