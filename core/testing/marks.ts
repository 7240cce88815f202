import { followMark } from "#core/marks/follow";
import type { Life, Mark, MarkContext, MarketFacts } from "#core/marks/kind";
import { kindOf, readMark } from "#core/marks/registry";
import type { Series } from "#core/series/series";
import { ALL_HOURS, Calendar } from "#core/time/calendar";

export const market: MarketFacts = { id: "m", name: "M", tick: 0.01, pip: 0.01, pipName: "pip", decimals: 2 };
export const calendar = new Calendar(ALL_HOURS);
export const day = (n: number) => Date.UTC(2024, 0, 1 + n);
export const contextOf = (series: Series): MarkContext => ({ series, market, calendar });

/** A daily mark, its anchors as day and price. */
export function mark(kind: string, anchors: [number, number][], props: Record<string, unknown> = {}): Mark {
  const read = readMark({
    id: "1",
    kind,
    market: "m",
    rung: "P1D",
    anchors: anchors.map(([n, price]) => ({ time: day(n), price })),
    props,
    note: "",
    author: "a",
    version: 1,
  });
  if (typeof read === "string") throw new Error(read);
  return read;
}

/** Where a mark of each kind may stand, as day and price around 100. */
export const SAMPLES: Record<string, [number, number][]> = {
  level: [[3, 100]],
  zone: [
    [2, 101],
    [3, 99],
  ],
  retracement: [
    [0, 95],
    [3, 105],
  ],
  trendLine: [
    [0, 95],
    [3, 98],
  ],
  note: [[2, 100]],
  count: [
    [0, 95],
    [2, 105],
    [3, 100],
  ],
  fittedLevel: [
    [0, 100],
    [3, 100],
  ],
  channel: [
    [0, 95],
    [3, 98],
    [1, 102],
  ],
  path: [
    [1, 100],
    [4, 104],
    [6, 98],
  ],
  bearing: [[2, 100]],
  dismissal: [[2, 100]],
  structure: [
    [1, 101],
    [3, 101],
  ],
  pool: [
    [1, 103],
    [3, 103],
  ],
  projection: [
    [0, 95],
    [2, 105],
    [3, 100],
  ],
  extension: [
    [0, 95],
    [3, 105],
  ],
  measuredMove: [
    [1, 97],
    [3, 103],
  ],
  timeRatios: [
    [0, 95],
    [2, 105],
    [3, 100],
  ],
  regressionChannel: [
    [0, 98],
    [3, 102],
  ],
  swingChannel: [
    [0, 95],
    [1, 102],
    [3, 98],
  ],
  speedLines: [
    [0, 95],
    [3, 105],
  ],
  arcs: [
    [0, 95],
    [3, 105],
  ],
  cycle: [
    [0, 95],
    [1, 96],
    [3, 95],
  ],
  anchoredAverage: [[2, 100]],
  divergence: [
    [0, 98],
    [3, 96],
  ],
  pattern: [
    [0, 104],
    [1, 96],
    [2, 104],
    [3, 97],
  ],
  gap: [
    [1, 99],
    [3, 101],
  ],
};

/** A sample of a kind, some days later and some prices higher. */
export function sampled(kind: string, later: number, higher: number): Mark {
  return mark(
    kind,
    SAMPLES[kind].map(([n, price]): [number, number] => [n + later, price + higher]),
    kind === "zone" ? { side: higher % 2 === 0 ? "demand" : "supply", own: true } : {},
  );
}

export function live(one: Mark, series: Series): Life {
  return followMark(one, contextOf(series));
}

export function say(one: Mark, series: Series): string {
  return kindOf(one).say(one, live(one, series), market);
}
