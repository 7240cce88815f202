import { readTerms } from "#core/conditions/registry";
import { asInstant } from "#core/observe/instant";
import type { ScenarioTerms } from "#core/scenarios/terms";
import type { Layer } from "#core/series/layers";
import { fromBars } from "#core/series/series";
import type { PlainCondition, PlainScenario } from "#core/testing/plainScenario";
import type { PlainBar, PlainLayer } from "#core/testing/plainTold";
import { MINUTE } from "#core/time/dates";
import { parseTimeframe } from "#core/time/timeframe";

/** A market in two or three resolutions with holes, and a scenario on it, in ticks and minutes. */
export interface RandomCase {
  layers: PlainLayer[];
  scenario: PlainScenario;
}

const LENGTHS = [15, 60, 240];
const PRICE = 100;

/** Random markets and scenarios: the same seed gives the same. */
export class RandomScenarios {
  constructor(private seed: number) {}

  next(): RandomCase {
    return { layers: this.layers(), scenario: this.scenario() };
  }

  /** mulberry32, a public-domain generator. */
  private random(): number {
    this.seed = (this.seed + 0x6d2b79f5) | 0;
    let t = Math.imul(this.seed ^ (this.seed >>> 15), 1 | this.seed);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  }

  private whole(from: number, to: number): number {
    return from + Math.floor(this.random() * (to - from + 1));
  }

  private one<T>(of: readonly T[]): T {
    return of[this.whole(0, of.length - 1)];
  }

  private chance(share: number): boolean {
    return this.random() < share;
  }

  /**
   * Bars of a quarter of an hour walk; hours and four hours are made of them, then each file loses parts of its own.
   */
  private layers(): PlainLayer[] {
    const quarters: PlainBar[] = [];
    let price = PRICE;
    for (let i = 0; i < this.whole(16, 64); i++) {
      const open = price + (this.chance(0.25) ? this.whole(-3, 3) : 0);
      const close = open + this.whole(-3, 3);
      const [high, low] = [Math.max(open, close) + this.whole(0, 2), Math.min(open, close) - this.whole(0, 2)];
      quarters.push({ from: i * 15, to: i * 15 + 15, open, high, low, close });
      price = close;
    }
    const from = this.whole(0, 20);
    return LENGTHS.filter((minutes) => minutes === 60 || this.chance(0.6)).map((minutes) => ({
      minutes,
      bars: grouped(quarters, minutes).filter((bar) => !this.chance(0.12) && (minutes !== 15 || bar.from >= from * 15)),
    }));
  }

  private price(spread = 8): number {
    return PRICE + this.whole(-spread, spread);
  }

  private condition(): PlainCondition {
    const side = this.one(["above", "below"] as const);
    const minutes = this.one([15, 60, 60, 240]);
    switch (this.one(["close", "close", "hold", "sweep", "touch", "leave"] as const)) {
      case "close":
        return { on: "close", side, price: this.price(), minutes };
      case "hold":
        return { on: "hold", side, price: this.price(), bars: this.whole(1, 3), minutes };
      case "sweep":
        return {
          on: "sweep",
          side: side === "above" ? "high" : "low",
          price: this.price(),
          within: this.whole(0, 2),
          minutes,
        };
      case "touch":
        return { on: "touch", price: this.price() };
      case "leave": {
        const bottom = this.price();
        return { on: "leave", band: [bottom, bottom + this.whole(0, 3)], by: this.whole(0, 3), side };
      }
    }
  }

  private scenario(): PlainScenario {
    const sign = this.one([1, -1] as const);
    const order = this.one(["market", "limit", "stop"] as const);
    const entry = this.price(5);
    const stop = entry - sign * this.whole(1, 6);
    const first = entry + sign * this.whole(1, 5);
    const targets = this.chance(0.5)
      ? [{ price: first, share: 1 }]
      : [
          { price: first, share: 0.5 },
          { price: first + sign * this.whole(1, 4), share: 0.5 },
        ];
    const steps = this.chance(0.2) ? 0 : this.whole(1, 2);
    return {
      since: this.whole(0, 16) * 15,
      sign,
      while: this.chance(0.2) ? [this.condition()] : [],
      if: Array.from({ length: steps }, () => ({
        when: this.condition(),
        ...(this.chance(0.4) ? { within: this.whole(1, 8) } : {}),
      })),
      unless: this.chance(0.2) ? [this.condition()] : [],
      order,
      ...(order === "market" && this.chance(0.5) ? {} : { entry }),
      stop,
      targets,
      breakEven: this.one([null, "target", 0.5, 1] as const),
      wrong: this.chance(0.7) ? stop - sign * this.whole(0, 4) : this.price(),
      expires: this.whole(10, 80) * 15,
      ...(this.chance(0.2) ? { leastReward: 1 } : {}),
      cost: this.chance(0.3) ? 0.25 : 0,
      through: this.chance(0.2) ? 1 : 0,
    };
  }
}

function grouped(quarters: readonly PlainBar[], minutes: number): PlainBar[] {
  const out = new Map<number, PlainBar>();
  for (const bar of quarters) {
    const from = bar.from - (bar.from % minutes);
    const known = out.get(from);
    if (!known) out.set(from, { ...bar, from, to: from + minutes });
    else {
      const [high, low] = [Math.max(known.high, bar.high), Math.min(known.low, bar.low)];
      out.set(from, { ...known, high, low, close: bar.close });
    }
  }
  // Without its end the last one is not over.
  const end = quarters[quarters.length - 1].to;
  return [...out.values()].filter(({ to }) => to <= end);
}

const rungOf = (minutes: number) => (minutes % 60 === 0 ? `PT${minutes / 60}H` : `PT${minutes}M`);

/** The bars of a case as layers; its midnight is the epoch. */
export function layersOfCase({ layers }: RandomCase): Layer[] {
  return layers
    .filter(({ bars }) => bars.length > 0)
    .map(({ minutes, bars }) => ({
      base: parseTimeframe(rungOf(minutes)) ?? { count: 1, unit: "day" },
      series: fromBars(
        bars.map(({ from, open, high, low, close }) => ({ time: from * MINUTE, open, high, low, close, volume: 1 })),
      ),
    }));
}

/** The scenario of a case as it is followed. */
export function termsOfCase({ scenario }: RandomCase): ScenarioTerms {
  const { sign, order, entry, breakEven, expires, while: holds, if: steps, unless, since: _, ...same } = scenario;
  const read = (condition: PlainCondition) => {
    const { minutes, ...terms } = { minutes: undefined, ...condition };
    return readTerms(minutes === undefined ? terms : { ...terms, rung: rungOf(minutes) }, "condition");
  };
  return {
    ...same,
    direction: sign > 0 ? "long" : "short",
    while: holds.map(read),
    if: steps.map(({ when, ...within }) => ({ when: read(when), ...within })),
    unless: unless.map(read),
    entry: { order, ...(entry === undefined ? {} : { price: entry }) },
    breakEven: breakEven === null ? null : breakEven === "target" ? { after: "target" } : { r: breakEven },
    trail: null,
    expires: asInstant(expires * MINUTE),
  };
}
