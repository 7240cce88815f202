import { RungReader } from "#core/finding/reader";
import { fromBars, type Bar, type Series } from "#core/series/series";
import { ALL_HOURS, Calendar } from "#core/time/calendar";
import { DAY } from "#core/time/dates";
import { makeBars } from "./market.ts";
import { seeded, type Random } from "./random.ts";
import { MARKETS, SPAN } from "./world.ts";

/** What was put into a series on purpose. */
export interface Planted {
  series: Series;
  zones: { from: number; to: number; side: "demand" | "supply" }[];
  gaps: { at: number; direction: "up" | "down" }[];
  /** A trend turned at `at`; the one before `next` turns it again. */
  shifts: { at: number; next: number; direction: "up" | "down" }[];
}

const TICK = 0.01;
const price = (value: number) => Math.round(value / TICK) * TICK;

/**
 * Daily bars of phases that trend up and down in turn, by legs of higher highs and higher lows or the mirror; in each
 * phase one base price leaves in a hurry, over a gap. Bars of the legs are about 3 high and move about 1.2, bars of a
 * base are 0.6 high at most; so what is planted is plain, but the rest is random.
 */
export function plantFacts(seed: string, phases = 12): Planted {
  const random = seeded(seed);
  const bars: Bar[] = [];
  const planted: Planted = { series: fromBars([]), zones: [], gaps: [], shifts: [] };
  let at = 400;
  const add = (close: number, above: number, below: number, open = at) => {
    const [o, c] = [price(open), price(close)];
    bars.push({
      time: Date.UTC(2020, 0, 1) + bars.length * DAY,
      open: o,
      close: c,
      high: price(Math.max(o, c) + above),
      low: price(Math.min(o, c) - below),
      volume: 1,
    });
    at = c;
  };
  const leg = (sign: number, count: number, step: number) => {
    for (let i = 0; i < count; i++)
      add(at + sign * step * random.between(0.6, 1.4), random.between(0.7, 1.3), random.between(0.7, 1.3));
  };
  let sign = 1;
  const turns: number[] = [];
  for (let phase = 0; phase < phases; phase++, sign = -sign) {
    turns.push(bars.length);
    const legs = 3 + Math.floor(random.between(0, 2));
    const withZone = 1 + Math.floor(random.between(0, legs - 1));
    for (let n = 0; n < legs; n++) {
      leg(sign, 7, 1.4);
      if (n === withZone) base(sign, random);
      leg(-sign, 5, 1);
    }
  }
  planted.shifts = turns.slice(1).map((turn, i) => ({
    at: turn,
    next: turns[i + 2] ?? bars.length,
    direction: i % 2 === 0 ? ("down" as const) : ("up" as const),
  }));
  return { ...planted, series: fromBars(bars) };

  /** A pause of quiet bars, then three that leave it by 2 each, the second over a gap between its neighbours. */
  function base(way: number, draw: Random): void {
    const from = bars.length;
    const count = 2 + Math.floor(draw.between(0, 3));
    const level = at;
    for (let i = 0; i < count; i++) add(level + draw.between(-0.15, 0.15), 0.15, 0.15);
    const side = way > 0 ? ("demand" as const) : ("supply" as const);
    planted.zones.push({ from, to: bars.length - 1, side });
    for (let i = 0; i < 3; i++) add(at + way * 2.6, 0.2, 0.2);
    planted.gaps.push({ at: bars.length - 1, direction: way > 0 ? "up" : "down" });
  }
}

export interface Judged {
  name: string;
  planted: number;
  found: number;
  /** Planted ones that were found, and found ones that were planted. */
  hit: number;
  right: number;
}

/**
 * What the detectors make of planted series: how many of the planted facts are found, and how many of what is found was
 * planted.
 */
export function judgePlanted(seeds: readonly string[]): Judged[] {
  const total = (name: string): Judged => ({ name, planted: 0, found: 0, hit: 0, right: 0 });
  const [zones, gaps, shifts] = [total("zones"), total("gaps"), total("shifts")];
  for (const seed of seeds) {
    const { series, ...planted } = plantFacts(seed);
    const reader = new RungReader(series, { count: 1, unit: "day" }, new Calendar(ALL_HOURS), TICK);
    count(zones, planted.zones, reader.bases.found, (a, b) => a.side === b.side && Math.abs(a.to - b.to) <= 1);
    count(
      gaps,
      planted.gaps,
      reader.gaps.found.filter((gap) => gap.top - gap.bottom >= reader.params.gap * reader.track.atr[gap.at]),
      (a, b) => a.direction === b.direction && Math.abs(a.at - b.at) <= 1,
    );
    const turned = reader.structure.events.filter(({ event }) => event === "shift");
    count(shifts, planted.shifts, turned, (a, b) => a.direction === b.direction && b.at >= a.at && b.at < a.next);
  }
  return [zones, gaps, shifts];
}

function count<A, B>(sum: Judged, planted: readonly A[], found: readonly B[], same: (a: A, b: B) => boolean): void {
  sum.planted += planted.length;
  sum.found += found.length;
  sum.hit += planted.filter((one) => found.some((other) => same(one, other))).length;
  sum.right += found.filter((other) => planted.some((one) => same(one, other))).length;
}

/** Days a turn of the prices may lie before the turn that was laid out: noise rides on it. */
const EARLY = 5;

/**
 * Shifts at the larger turns of the demo world, whose waves are known: after each end of a wave two degrees below the
 * root, on the days that are stored as such, a shift the next wave's way before that wave is over. What else shifts are
 * finer waves, so nothing is said of precision.
 */
export function judgeDemo(): Judged {
  const sum: Judged = { name: "shifts at the turns of the demo world", planted: 0, found: 0, hit: 0, right: 0 };
  for (const market of MARKETS) {
    const { daily, truth } = makeBars(market, SPAN, MARKETS);
    const turns = truth.children
      .flatMap((wave) => (wave.children.length > 0 ? wave.children : [wave]))
      .map(({ end }) => end);
    const { events } = new RungReader(daily, { count: 1, unit: "day" }, new Calendar(market.calendar), market.tick)
      .structure;
    turns.slice(0, -1).forEach(({ day, log }, i) => {
      const next = turns[i + 1];
      if (next.day >= daily.length) return;
      sum.planted++;
      const way = next.log > log ? "up" : "down";
      if (
        events.some(
          ({ event, direction, at }) => event === "shift" && direction === way && at >= day - EARLY && at <= next.day,
        )
      )
        sum.hit++;
    });
  }
  return sum;
}
