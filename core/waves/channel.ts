import { directionOf, SCALES, type LengthScale, type Pivot, type Wave } from "#core/waves/wave";

/** A line through two points and a parallel to it; positions are bars, values prices on the scale of lengths. */
export interface WaveChannel {
  name: string;
  /** Where the wave in progress is expected to end: at the base line or at the parallel. */
  ends: "base" | "parallel";
  /** Price of each line at a position. */
  base(position: number): number;
  parallel(position: number): number;
  /** First position the lines are drawn from. */
  from: number;
}

/**
 * Channels of an impulse as far as it has come (Frost and Prechter, chapter 2, "Channeling", from memory):
 * with 3 running, the line through its start and the end of 2, laid through the end of 1 (acceleration);
 * with 4 running, the line through 1 and 3, laid through 2;
 * with 5 running, the line through 2 and 4, laid through 3, and where 3 was very steep through 1 as well.
 * `positionOf` gives the bar of an instant, so that closed hours take no room.
 */
export function channelsOf(
  { pattern, pivots }: Pick<Wave, "pattern" | "pivots">,
  positionOf: (time: number) => number,
  scale: LengthScale = "arithmetic",
): WaveChannel[] {
  if (pattern !== "impulse") return [];
  const channel = (name: string, ends: WaveChannel["ends"], a: number, b: number, through: number) =>
    channelThrough(name, ends, pivots[a], pivots[b], pivots[through], positionOf, scale);
  switch (pivots.length) {
    case 3:
      return [channel("0-2 through 1", "parallel", 0, 2, 1)];
    case 4:
      return [channel("1-3 through 2", "parallel", 1, 3, 2)];
    case 5:
      return isSteep(pivots)
        ? [channel("2-4 through 3", "parallel", 2, 4, 3), channel("2-4 through 1", "parallel", 2, 4, 1)]
        : [channel("2-4 through 3", "parallel", 2, 4, 3)];
    default:
      return [];
  }
}

/** A third wave of more than 2.618 times the first would put the parallel out of reach. */
function isSteep(pivots: readonly Pivot[]): boolean {
  return (
    directionOf(pivots) * (pivots[3].price - pivots[2].price) > 2.618 * Math.abs(pivots[1].price - pivots[0].price)
  );
}

function channelThrough(
  name: string,
  ends: WaveChannel["ends"],
  a: Pivot,
  b: Pivot,
  c: Pivot,
  positionOf: (time: number) => number,
  scale: LengthScale,
): WaveChannel {
  const { on, off } = SCALES[scale];
  const [x, y] = [positionOf(a.time), positionOf(b.time)];
  const slope = (on(b.price) - on(a.price)) / (y - x);
  const through = (point: Pivot) => {
    const at = positionOf(point.time);
    return (position: number) => off(on(point.price) + slope * (position - at));
  };
  return { name, ends, base: through(a), parallel: through(c), from: Math.min(x, positionOf(c.time)) };
}
