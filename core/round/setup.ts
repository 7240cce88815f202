import type { Series } from "#core/series/series";

/** A trade that was not taken, as it would have been. */
export interface Setup {
  what: "passed" | "missed";
  reason: string;
  direction: "long" | "short";
  entry: number;
  stop: number;
  target: number;
}

export type SetupEnd = "target" | "stopped" | "open";

export interface SetupOutcome {
  end: SetupEnd;
  /** Close of the bar that ended it. */
  at: number | undefined;
  /** In R: what it would have made, or stands at. */
  r: number;
  /** One bar held both stop and target: the stop counts. */
  ambiguous: boolean;
}

/** Reward to risk of an entry with its stop and target; `undefined` where they stand on the wrong sides. */
export function rewardToRisk({
  direction,
  entry,
  stop,
  target,
}: Pick<Setup, "direction" | "entry" | "stop" | "target">): number | undefined {
  const sign = direction === "long" ? 1 : -1;
  const risk = sign * (entry - stop);
  const reward = sign * (target - entry);
  return risk > 0 && reward > 0 ? reward / risk : undefined;
}

/**
 * What would have become of it, entered at once: whether a wick of the bars that open at `from` or later met the stop
 * or the target first. A bar that holds both counts as stopped and says so; an open beyond either fills there.
 */
export function outcomeOf(setup: Setup, bars: Series, from: number, closeOf: (time: number) => number): SetupOutcome {
  const { direction, entry, stop, target } = setup;
  const sign = direction === "long" ? 1 : -1;
  const risk = sign * (entry - stop);
  const inR = (price: number) => (sign * (price - entry)) / risk;
  let last = entry;
  for (let i = 0; i < bars.length; i++) {
    if (bars.time[i] < from) continue;
    const [with_, against] = sign > 0 ? [bars.high[i], bars.low[i]] : [bars.low[i], bars.high[i]];
    const stopped = sign * (against - stop) <= 0;
    const met = sign * (with_ - target) >= 0;
    const open = bars.open[i];
    if (stopped)
      return {
        end: "stopped",
        at: closeOf(bars.time[i]),
        r: inR(sign * (open - stop) < 0 ? open : stop),
        ambiguous: met,
      };
    if (met)
      return {
        end: "target",
        at: closeOf(bars.time[i]),
        r: inR(sign * (open - target) > 0 ? open : target),
        ambiguous: false,
      };
    last = bars.close[i];
  }
  return { end: "open", at: undefined, r: inR(last), ambiguous: false };
}
