import type { Mark, MarkContext } from "#core/marks/kind";
import { kindOf } from "#core/marks/registry";
import { statusOf } from "#core/marks/status";
import { lastAtOrBefore } from "#core/series/series";

export interface NamedBand {
  bottom: number;
  top: number;
  name: string;
}

/** The prices of a place at the bar that holds an instant, from low to high in what they are of. */
export type BandsAt = (time: number) => NamedBand[];

/**
 * The prices of a mark at any instant after its birth: of a line or channel its value at the bar of its own rung (it
 * is straight in bars), of anything else those it was made with. Prices that end a statement are no place.
 */
export function bandsOfMark(mark: Mark, context: MarkContext): BandsAt {
  const kind = kindOf(mark);
  const start = kind.start(mark, context);
  const bandsOf = (state: unknown): NamedBand[] =>
    kind
      .prices(mark, { state, ...statusOf(kind.status(state)), events: [] })
      .filter(({ role }) => role !== "kill" && role !== "target")
      .map(({ bottom, top, label }) => ({ bottom, top, name: label }));
  if (!isLine(start)) {
    const bands = bandsOf(start);
    return () => bands;
  }
  const { series } = context;
  const second = lastAtOrBefore(series, mark.anchors[1].time);
  return (time) => bandsOf({ ...start, bars: lastAtOrBefore(series, time) - second });
}

/** Lines and channels count the bars since their second anchor. */
function isLine(state: unknown): state is { perBar: number; bars: number } {
  return typeof state === "object" && state !== null && "perBar" in state && "bars" in state;
}
