import { readTerms, type Terms } from "#core/conditions/registry";
import { asInstant } from "#core/observe/instant";
import type { SeveralTerms } from "#core/scenarios/legs";
import type { ScenarioTerms } from "#core/scenarios/terms";
import type { Layer } from "#core/series/layers";
import { fromBars } from "#core/series/series";
import type { Price } from "#core/conditions/price";
import type { PlainCondition } from "#core/testing/plainConditions";
import type { PlainPrice } from "#core/testing/plainPrices";
import type { PlainLeg, PlainLegs } from "#core/testing/plainLegs";
import type { PlainScenario } from "#core/testing/plainScenario";
import type { PlainBar, PlainLayer } from "#core/testing/plainTold";
import { MINUTE } from "#core/time/dates";
import { parseTimeframe } from "#core/time/timeframe";

type OrderTerms = Pick<ScenarioTerms, "entry" | "stop" | "targets" | "breakEven">;

/** A market in two or three resolutions with holes, and a scenario on it, in ticks and minutes. */
export interface RandomCase {
  layers: PlainLayer[];
  scenario: PlainScenario;
}

/** The same with two or three entries, some of which wait for another. */
export interface RandomLegs {
  layers: PlainLayer[];
  scenario: PlainLegs;
}

const LENGTHS = [15, 60, 240];
const PRICE = 100;

const rungOf = (minutes: number) => (minutes % 60 === 0 ? `PT${minutes / 60}H` : `PT${minutes}M`);

/** Random markets and scenarios: the same seed gives the same. */
export class RandomScenarios {
  constructor(private seed: number) {}

  next(): RandomCase {
    return { layers: this.layers(), scenario: this.scenario() };
  }

  nextLegs(): RandomLegs {
    const layers = this.layers();
    const shared = this.easyScenario();
    const risks = this.one([
      [0.25, 0.75],
      [0.5, 0.25, 0.25],
    ]);
    const legs = risks.map((risk, n): PlainLeg => {
      const { order, entry, stop, targets, breakEven } = n === 0 ? shared : this.scenario(shared.sign);
      const own = n > 0 && this.chance(0.3) ? [{ when: this.condition(shared.if.length) }] : [];
      const after =
        n > 0 && this.chance(0.7)
          ? { after: { leg: this.whole(1, n), event: this.one(["entered", "target", "stopped"] as const) } }
          : {};
      return { order, entry, stop, targets, breakEven, if: own, risk, ...after };
    });
    return { layers, scenario: { shared, legs } };
  }

  /** One that is entered more often than not: what waits for it would wait in vain. */
  private easyScenario(): PlainScenario {
    const { leastReward: _, ...scenario } = this.scenario();
    const { sign, if: steps } = scenario;
    return {
      ...scenario,
      ...{ since: 0, while: [], unless: [], if: this.chance(0.7) ? [] : steps.slice(0, 1), order: "market" },
      ...{ wrong: PRICE - sign * 20, expires: 80 * 15 },
    };
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

  /** What a price may be besides a number; `step`: how many steps come before it. */
  private rule(step: number): PlainPrice {
    const minutes = this.one([15, 60, 240]);
    if (step > 0 && this.chance(0.7)) {
      const bind = this.one(["barHigh", "barLow", "sweptExtreme", "level"] as const);
      return { bind, step: this.whole(1, step), ticks: this.whole(-2, 2) };
    }
    if (this.chance(0.5)) return { previous: minutes, of: this.one(["high", "low", "close"] as const) };
    return this.line(minutes);
  }

  /** Along whole ticks a bar, so that it meets the grid on every one. */
  private line(minutes: number, from = this.whole(0, 10) * minutes, price = this.price(5)): PlainPrice {
    const bars = this.whole(1, 4);
    const slope = this.whole(-1, 1);
    return {
      line: [
        { time: from, price },
        { time: from + bars * minutes, price: price + slope * bars },
      ],
      minutes,
    };
  }

  private looked(step: number): PlainPrice {
    return this.chance(0.4) ? this.rule(step) : this.price();
  }

  private condition(step = 0): PlainCondition {
    const side = this.one(["above", "below"] as const);
    const minutes = this.one([15, 60, 60, 240]);
    switch (this.one(["close", "close", "hold", "sweep", "touch", "leave"] as const)) {
      case "close":
        return { on: "close", side, price: this.looked(step), minutes };
      case "hold":
        return { on: "hold", side, price: this.looked(step), bars: this.whole(1, 3), minutes };
      case "sweep":
        return {
          on: "sweep",
          side: side === "above" ? "high" : "low",
          price: this.looked(step),
          within: this.whole(0, 2),
          minutes,
        };
      case "touch":
        return { on: "touch", price: this.looked(step) };
      case "leave": {
        const bottom = this.price();
        return { on: "leave", band: [bottom, bottom + this.whole(0, 3)], by: this.whole(0, 3), side };
      }
    }
  }

  /** Prices of an order that hang on what was met, or go along a line, instead of the numbers. */
  private ordered(
    steps: number,
    sign: 1 | -1,
    plain: Pick<PlainScenario, "entry" | "stop" | "targets">,
  ): Pick<PlainScenario, "entry" | "stop" | "targets"> {
    if (this.chance(0.5)) return plain;
    const bound = (ticks: number): PlainPrice => ({
      bind: this.one(["barHigh", "barLow", "level"] as const),
      step: this.whole(1, steps),
      ticks,
    });
    const isBound = steps > 0 && this.chance(0.7);
    const [first, ...rest] = plain.targets;
    const r = this.chance(0.5) && isBound;
    return {
      entry: isBound && this.chance(0.5) ? bound(0) : plain.entry,
      stop:
        isBound && this.chance(0.7)
          ? bound(-this.whole(2, 6))
          : r || this.chance(0.5)
            ? plain.stop
            : this.line(60, 0, plain.stop as number),
      targets: r
        ? [{ ...first, price: { r: 1 } }, ...rest.map((one) => ({ ...one, price: { r: 2 } }))]
        : isBound && this.chance(0.6)
          ? [{ price: bound(this.whole(4, 8)), share: 1 }]
          : plain.targets,
    };
  }

  private scenario(sign = this.one([1, -1] as const)): PlainScenario {
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
    const ordered = this.ordered(steps, sign, { entry, stop, targets });
    return {
      since: this.whole(0, 16) * 15,
      sign,
      while: this.chance(0.2) ? [this.condition()] : [],
      if: Array.from({ length: steps }, (_, n) => ({
        when: this.condition(n),
        ...(this.chance(0.4) ? { within: this.whole(1, 8) } : {}),
      })),
      unless: this.chance(0.2) ? [this.condition()] : [],
      order,
      ...(order === "market" && this.chance(0.5) ? {} : { entry: ordered.entry }),
      stop: ordered.stop,
      targets: ordered.targets,
      breakEven: this.one([null, "target", 0.5, 1] as const),
      wrong: this.chance(0.7) ? stop - sign * this.whole(0, 4) : this.price(),
      expires: this.whole(10, 80) * 15,
      ...(this.chance(0.2) ? { leastReward: 1 } : {}),
      cost: this.chance(0.3) ? 0.25 : 0,
      through: this.chance(0.2) ? 1 : 0,
    };
  }
}

/** A case's price as it is followed. */
function priceOf(price: PlainPrice): Price {
  if (typeof price === "number" || "bind" in price || "r" in price) return price;
  if ("previous" in price) return { ...price, previous: rungOf(price.previous) };
  const [a, b] = price.line.map(({ time, price: at }) => ({ time: time * MINUTE, price: at }));
  return { line: [a, b], rung: rungOf(price.minutes) };
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

/** The bars of a case as layers; its midnight is the epoch. */
export function layersOfCase({ layers }: Pick<RandomCase, "layers">): Layer[] {
  return layers
    .filter(({ bars }) => bars.length > 0)
    .map(({ minutes, bars }) => ({
      base: parseTimeframe(rungOf(minutes)) ?? { count: 1, unit: "day" },
      series: fromBars(
        bars.map(({ from, open, high, low, close }) => ({ time: from * MINUTE, open, high, low, close, volume: 1 })),
      ),
    }));
}

function conditionTerms(condition: PlainCondition): Terms {
  const { minutes, ...own } = { minutes: undefined, ...condition };
  const terms = "price" in own ? { ...own, price: priceOf(own.price) } : own;
  return readTerms(minutes === undefined ? terms : { ...terms, rung: rungOf(minutes) }, "condition");
}

const stepTerms = (steps: PlainScenario["if"]) =>
  steps.map(({ when, ...within }) => ({ when: conditionTerms(when), ...within }));

function orderTerms({ order, entry, stop, targets, breakEven }: Omit<PlainLeg, "if" | "risk">): OrderTerms {
  return {
    entry: { order, ...(entry === undefined ? {} : { price: priceOf(entry) }) },
    stop: priceOf(stop),
    targets: targets.map(({ price, share }) => ({ price: priceOf(price), share })),
    breakEven: breakEven === null ? null : breakEven === "target" ? { after: "target" } : { r: breakEven },
  };
}

/** The scenario of a case as it is followed. */
export function termsOfCase(scenario: PlainScenario): ScenarioTerms {
  const { sign, leastReward, cost, through } = scenario;
  return {
    ...(leastReward === undefined ? {} : { leastReward }),
    cost,
    through,
    wrong: priceOf(scenario.wrong),
    direction: sign > 0 ? "long" : "short",
    while: scenario.while.map(conditionTerms),
    if: stepTerms(scenario.if),
    unless: scenario.unless.map(conditionTerms),
    ...orderTerms(scenario),
    trail: null,
    expires: asInstant(scenario.expires * MINUTE),
  };
}

/** The same of a case with several entries. */
export function severalOfCase({ shared, legs }: PlainLegs): SeveralTerms {
  const { entry: _, stop: __, targets: ___, breakEven: ____, ...common } = termsOfCase(shared);
  return {
    ...common,
    legs: legs.map(({ risk, after, if: own, ...order }) => ({
      if: stepTerms(own),
      ...orderTerms(order),
      risk,
      ...(after ? { after } : {}),
    })),
  };
}
