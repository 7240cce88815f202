import type { Source, Found } from "#core/finding/found";
import type { RungReader } from "#core/finding/reader";
import { bucketOfBar } from "#core/time/boundaries";

/** What a finding says of itself before it is known where it stands among the others. */
export type Draft = Omit<Found, "sources" | "lineage" | "alsoKeys" | "rung" | "knownAt"> & {
  knownAt: number;
  /** Index ranges [first, last] of the bars it rests on. */
  bars: readonly (readonly [number, number])[];
};

/** A finding of a rung, with the stretches of time it rests on. */
export function finish(reader: RungReader, { bars, knownAt, ...draft }: Draft): Found {
  const { rung, track } = reader;
  return {
    ...draft,
    rung,
    knownAt: track.time[knownAt],
    sources: bars.map(([first, last]) => sourceOf(reader, first, last)),
    lineage: [{ rung, name: draft.name }],
    alsoKeys: [],
  };
}

function sourceOf({ track, timeframe, calendar }: RungReader, first: number, last: number): Source {
  return {
    from: bucketOfBar(track.time[first], timeframe, calendar).from,
    to: bucketOfBar(track.time[last], timeframe, calendar).to,
  };
}

/** Prices in a key are written so that the same price is always the same text. */
export function keyOf(...parts: (string | number)[]): string {
  return parts.map((part) => (typeof part === "number" ? String(Number(part.toPrecision(12))) : part)).join(" ");
}

interface Placed {
  bottom: number;
  top: number;
}

/** The `most` that lie nearest to a price on each side of it; what holds the price counts for both. */
export function nearestEachSide<T extends Placed>(list: readonly T[], price: number, most: number): T[] {
  const below = list.filter(({ bottom }) => bottom <= price).sort((a, b) => b.top - a.top);
  const above = list.filter(({ top }) => top >= price).sort((a, b) => a.bottom - b.bottom);
  return [...new Set([...below.slice(0, most), ...above.slice(0, most)])];
}
