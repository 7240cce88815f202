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

export function live(one: Mark, series: Series): Life {
  return followMark(one, contextOf(series));
}

export function say(one: Mark, series: Series): string {
  return kindOf(one).say(one, live(one, series), market);
}
