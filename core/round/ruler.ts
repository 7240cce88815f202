import type { Setup } from "#core/round/setup";

interface Edges {
  bottom: number;
  top: number;
}

/** Where there is no area behind price to hide a stop, it stands this many ATR away. */
const AWAY = 1.5;

/**
 * Entry, stop and target of a look, before any plan is made: entered at the price, stopped one tick beyond the area
 * price is in or else the nearest one behind it, at the near edge of the first area ahead (common practice, no
 * source: from area to area). Without an area behind the stop stands 1.5 ATR away; without one ahead there is no
 * target.
 */
export function rulerAt(
  direction: Setup["direction"],
  price: number,
  areas: readonly Edges[],
  atr: number,
  tick: number,
): { entry: number; stop: number; target: number | undefined } {
  const long = direction === "long";
  // Upside down for a short: what is behind is below, what is ahead above.
  const seen = areas.map(({ bottom, top }) => (long ? { near: bottom, far: top } : { near: -top, far: -bottom }));
  const at = long ? price : -price;
  const behind = seen.filter(({ near }) => near <= at).sort((a, b) => b.near - a.near)[0];
  const ahead = seen.filter(({ near }) => near > at).sort((a, b) => a.near - b.near)[0];
  const stop = behind ? behind.near - tick : at - AWAY * atr;
  const back = (value: number) =>
    Number((Math.round(Number(((long ? value : -value) / tick).toPrecision(12))) * tick).toPrecision(12));
  return { entry: price, stop: back(stop), target: ahead && back(ahead.near) };
}
