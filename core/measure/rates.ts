import type { RungReader } from "#core/finding/reader";
import { effectiveOf } from "#core/measure/lift";
import { OUTCOME_RULES } from "#core/measure/measured";
import { occurrencesOf, RATE_KINDS, type Occurrence, type RateKind } from "#core/measure/occurrences";
import { verdictOf, type Verdict } from "#core/measure/verdict";
import { wilson, type Interval } from "#core/statistics/intervals";

/** How often price went on in the way it is expected to after something happened. */
export interface BaseRate {
  kind: RateKind;
  /** Cases that were decided, and those that were not within the horizon. */
  n: number;
  open: number;
  share?: number;
  /** 95 %, of as many cases as the overlapping ones are worth. */
  interval?: Interval;
  /** The same share after every bar, with as many of each way. */
  chance?: number;
  verdict: Verdict;
}

type Race = "on" | "back" | "open";

/**
 * Base rates by kind: of the closes within `horizon` bars (40) after the bar it happened on, the first that lies one
 * ATR(14) of that bar away decides, on in the expected way or back against it. Chance is the share of *all* bars of the
 * stretch, raced by the same rule each way, and needs no drawing. Kinds that never happened are left out. Cost:
 * O(bars x horizon) at most.
 */
export function baseRatesOf(reader: RungReader, horizon = OUTCOME_RULES.horizon): BaseRate[] {
  const { track } = reader;
  const ways = { 1: everyBar(track, 1, horizon), [-1]: everyBar(track, -1, horizon) };
  const all = occurrencesOf(reader).filter(({ at }) => track.atr[at] > 0);
  return (Object.keys(RATE_KINDS) as RateKind[]).flatMap((kind): BaseRate[] => {
    const own = all.filter((one) => one.kind === kind);
    return own.length === 0 ? [] : [rateOf(kind, own, track, ways, horizon)];
  });
}

type Bars = Pick<RungReader["track"], "close" | "atr" | "length">;

function rateOf(
  kind: RateKind,
  own: readonly Occurrence[],
  bars: Bars,
  ways: Readonly<Record<1 | -1, number | undefined>>,
  horizon: number,
): BaseRate {
  const raced = own.map(({ at, way }) => ({ at, way, race: raceFrom(bars, at, way, horizon) }));
  const decided = raced.filter(({ race }) => race !== "open");
  const counted = { kind, n: decided.length, open: raced.length - decided.length };
  if (decided.length === 0) return { ...counted, verdict: "few" };
  const cases = decided.map(({ at, race }) => ({ at, hit: race === "on" }));
  const share = cases.filter(({ hit }) => hit).length / cases.length;
  const effective = effectiveOf(cases, horizon);
  const interval = wilson(share * effective, effective);
  const ups = decided.filter(({ way }) => way > 0).length / decided.length;
  const [up, down] = [ways[1], ways[-1]];
  if (up === undefined || down === undefined) return { ...counted, share, interval, verdict: "few" };
  const chance = ups * up + (1 - ups) * down;
  const verdict = verdictOf(decided.length, [interval[0] - chance, interval[1] - chance]);
  return { ...counted, share, interval, chance, verdict };
}

function raceFrom({ close, atr, length }: Bars, at: number, way: 1 | -1, horizon: number): Race {
  const last = Math.min(length - 1, at + horizon);
  for (let i = at + 1; i <= last; i++) {
    const gone = way * (close[i] - close[at]);
    if (Math.abs(gone) >= atr[at]) return gone > 0 ? "on" : "back";
  }
  return "open";
}

/** The share of all bars after which price went on a way first; none where no bar was decided. */
function everyBar(bars: Bars, way: 1 | -1, horizon: number): number | undefined {
  let [on, decided] = [0, 0];
  for (let i = 0; i < bars.length; i++) {
    if (!(bars.atr[i] > 0)) continue;
    const race = raceFrom(bars, i, way, horizon);
    if (race !== "open") decided++;
    if (race === "on") on++;
  }
  return decided === 0 ? undefined : on / decided;
}
