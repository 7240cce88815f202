import { Heap } from "#core/levels/heap";
import { edgesOfBand, signOf, type BandAtBirth, type Outcome, type OutcomeRules } from "#core/measure/measured";
import type { Series } from "#core/series/series";
import type { Detector } from "#core/series/track";

/** Bars that outcomes are read from, with the ATR(14) known at each close (not a number before its warm-up). */
export interface JudgedBars extends Pick<Series, "high" | "low" | "close"> {
  atr: Float64Array;
  /** Smallest step of prices. */
  tick: number;
}

interface Touched {
  outcome: Outcome;
  sign: 1 | -1;
  /** The close at which it is respected; the far edge, beyond which it is broken; both times the sign. */
  respected: number;
  far: number;
  until: number;
}

interface Waiting {
  band: BandAtBirth;
  outcome: Outcome;
}

/**
 * What becomes of bands, told of one bar after the other. The first bar whose wick reaches the near edge touches; of
 * its own close and of those of `horizon` bars after it the first decides that is strictly beyond the far edge (broken)
 * or `away` ATR, as it stood at the touching bar, back from the near one (respected). Wicks never decide. A bar costs
 * O(log bands) for each it touches and O(1) for each that is being judged.
 */
export class OutcomeFollower implements Detector {
  // Demand is met from above: its keys are turned, so that the highest comes first.
  private readonly waiting = { demand: new Heap<Waiting>(), supply: new Heap<Waiting>() };
  private touched: Touched[] = [];
  /** Within which a price counts as another (price units). */
  private readonly same: number;

  constructor(
    private readonly bars: JudgedBars,
    private readonly rules: OutcomeRules,
  ) {
    this.same = bars.tick / 1000;
  }

  /** Follows a band from the bar after its `knownAt` on: call it when that bar has been told. */
  add(band: BandAtBirth): Outcome {
    const outcome: Outcome = { result: "untouched" };
    const { near } = edgesOfBand(band);
    this.waiting[band.side].push(-signOf(band.side) * near, { band, outcome });
    return outcome;
  }

  next(i: number): void {
    const { high, low } = this.bars;
    this.touch("demand", -low[i] + this.same, i);
    this.touch("supply", high[i] + this.same, i);
    this.judge(i);
  }

  private touch(side: "demand" | "supply", reach: number, i: number): void {
    const waiting = this.waiting[side];
    while (waiting.least <= reach) {
      const met = waiting.pop();
      if (!met) break;
      const { near, far } = edgesOfBand(met.band);
      const sign = signOf(side);
      met.outcome.result = "open";
      met.outcome.touchedAt = i;
      this.touched.push({
        outcome: met.outcome,
        sign,
        respected: sign * near + this.rules.away * this.bars.atr[i] - this.same,
        far: sign * far - this.same,
        until: i + this.rules.horizon,
      });
    }
  }

  private judge(i: number): void {
    const close = this.bars.close[i];
    let kept = 0;
    for (const one of this.touched) {
      const at = one.sign * close;
      if (at < one.far) one.outcome.result = "broken";
      else if (at >= one.respected) one.outcome.result = "respected";
      if (one.outcome.result !== "open" || i === one.until) one.outcome.at = i;
      else this.touched[kept++] = one;
    }
    this.touched.length = kept;
  }
}

/** What became of bands in order of `knownAt`, over all the bars there are. */
export function outcomesOf(
  bands: readonly BandAtBirth[],
  bars: JudgedBars,
  length: number,
  rules: OutcomeRules,
): Outcome[] {
  const follower = new OutcomeFollower(bars, rules);
  const out: Outcome[] = [];
  for (let i = 0; i < length; i++) {
    follower.next(i);
    while (out.length < bands.length && bands[out.length].knownAt === i) out.push(follower.add(bands[out.length]));
  }
  return out;
}
