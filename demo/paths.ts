import { seeded, type Random } from "./random.ts";
import type { Release } from "./releases.ts";
import { plant, skeleton, type PlantedWave } from "./waves.ts";

/** Share of a leg's height by which the bounds of its noise rise or fall from its start to its end. */
const LEAN = 0.4;

/** Degrees a market's waves are planted deep. */
const DEGREES = 4;

/** Where a price goes in the end, and how wide a day swings about its way (share of price). */
export interface Route {
  from: number;
  to: number;
  swing: number;
  /** Prices on the way, at equal distances in time: a market that goes up and down and gets nowhere in the end. */
  via?: readonly number[];
  /** A straight way without waves of its own, for a market that goes with another. */
  straight?: boolean;
}

/**
 * Log price as a function of market time (trading days and shares of them), asked for in order. A planted wave tree
 * gives the turns. Between two turns there is a straight way plus noise that is drawn back to it and turned around at
 * the turns' prices, so that each turn remains the extreme of its legs; calm and restless years follow on each other.
 */
export class Path {
  /** The wave tree that ends with the path. */
  readonly truth: PlantedWave;
  private readonly turns: readonly { day: number; log: number }[];
  private readonly random: Random;
  private readonly phase: number;
  private leg = 0;
  private noise = 0;
  private time = 0;
  private next = 0;

  constructor(
    seed: string,
    private readonly route: Route,
    private readonly days: number,
    private readonly releases: readonly Release[],
  ) {
    this.random = seeded(seed);
    this.phase = this.random.between(0, 6.28);
    const stops = [route.from, ...(route.via ?? []), route.to].map((price, i, all) => ({
      day: (days * i) / (all.length - 1),
      log: Math.log(price),
    }));
    const trees = stops
      .slice(1)
      .map((end, i) => plant(stops[i], end, i % 2 === 0 ? "impulse" : "zigzag", DEGREES, this.random));
    this.truth = trees[trees.length - 1];
    this.turns = route.straight ? stops : trees.flatMap((tree, i) => skeleton(tree).slice(i === 0 ? 0 : 1));
  }

  /** Log price at market time `at`; `instant` (ms UTC) says which releases are out. */
  at(at: number, instant: number): number {
    const before = this.leg;
    while (this.leg < this.turns.length - 2 && at > this.turns[this.leg + 1].day) this.leg++;
    const [from, to] = [this.turns[this.leg], this.turns[this.leg + 1]];
    const step = at - this.time;
    this.time = at;
    if (this.leg > before) {
      // The step that passes a turn stands on it, so that the planted price is traded.
      this.noise = 0;
      return from.log;
    }
    // Noise wider than its leg would only be folded back and leave flat tops.
    const usual = this.route.swing * this.regime(at);
    const swing = this.route.straight ? usual : Math.min(usual, 0.4 * Math.abs(to.log - from.log));
    const left = Math.min(Math.max(1e-9, to.day - at), 1.5);
    this.noise += swing * Math.sqrt(step) * this.random.normal() - this.noise * Math.min(1, step / left);
    while (this.next < this.releases.length && this.releases[this.next].time < instant)
      this.noise += swing * this.releases[this.next++].size;
    const share = (at - from.day) / (to.day - from.day);
    const raw = from.log + (to.log - from.log) * share + this.noise;
    if (this.route.straight) return raw;
    // The bounds lean with the leg: level ones would leave a row of equal highs or lows.
    const lean = LEAN * Math.abs(to.log - from.log);
    const [up, down] = to.log > from.log ? [share, 1 - share] : [1 - share, share];
    return reflect(raw, Math.min(from.log, to.log) + lean * up, Math.max(from.log, to.log) - lean * down);
  }

  /** How far the price is from the straight line between the ends of its whole way, in logs. */
  deviation(at: number, instant: number): number {
    const { from, to } = this.route;
    return this.at(at, instant) - Math.log(from) - (Math.log(to / from) * at) / this.days;
  }

  private regime(at: number): number {
    return Math.exp(0.35 * Math.sin(at / 60 + this.phase) + 0.2 * Math.sin(at / 15 + 2 * this.phase));
  }
}

function reflect(value: number, low: number, high: number): number {
  const width = high - low;
  if (width < 1e-9) return low;
  const folded = (((value - low) % (2 * width)) + 2 * width) % (2 * width);
  return low + (folded > width ? 2 * width - folded : folded);
}
