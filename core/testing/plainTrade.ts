import type { PlainScenario } from "#core/testing/plainScenario";
import type { PlainBar } from "#core/testing/plainTold";

/** A scenario with its prices as they are on one bar; what is not known yet is missing. */
export interface Priced extends Omit<PlainScenario, "entry" | "stop" | "targets" | "wrong"> {
  entry?: number;
  stop: number;
  targets: { price: number; share: number }[];
  wrong: number;
}

export interface Position {
  phase: "armed" | "open" | "done";
  fill: number;
  risk: number;
  stop: number;
  hit: number;
  free: boolean;
  /** Whether its stop no longer stands where the scenario has it. */
  moved: boolean;
  realised: number;
  said: { event: string; price: number; target?: number; r?: number }[];
}

/**
 * One trade, step by step. Positions are prices in half ticks divided by two, so that "beyond" has a place of its own.
 */
export class PlainTrade {
  constructor(private readonly scenario: Priced) {}

  r({ fill, risk }: Position, price: number): number {
    return (this.scenario.sign * (price - fill)) / risk;
  }

  left({ hit }: Position): number {
    return this.scenario.targets.slice(hit).reduce((sum, { share }) => sum + share, 0);
  }

  value(one: Position, close: number): number {
    return one.realised + (one.phase === "open" ? this.left(one) * this.r(one, close) : 0);
  }

  enter(one: Position, fill: number): Position {
    const { scenario } = this;
    const left = scenario.sign * (fill - scenario.stop);
    const risk = scenario.entry === undefined ? left : one.risk;
    if (scenario.sign * (fill - scenario.targets[0].price) >= 0 || left < risk / 4 || risk <= 0)
      return { ...one, phase: "done", said: [...one.said, { event: "missed", price: fill }] };
    return {
      ...one,
      phase: "open",
      fill,
      risk,
      realised: -scenario.cost / risk,
      said: [...one.said, { event: "entered", price: fill }],
    };
  }

  free(one: Position): Position {
    if (this.scenario.sign * (one.stop - one.fill) >= 0) return { ...one, free: true };
    const said = [...one.said, { event: "breakEven", price: one.fill }];
    return { ...one, free: true, moved: true, stop: one.fill, said };
  }

  take(one: Position, price: number): Position {
    const { targets, breakEven } = this.scenario;
    const r = one.realised + targets[one.hit].share * this.r(one, price);
    const hit = one.hit + 1;
    const next = { ...one, hit, realised: r, said: [...one.said, { event: "target", price, target: hit, r }] };
    if (hit === targets.length)
      return { ...next, phase: "done", said: [...next.said, { event: "completed", price, r }] };
    return breakEven === "target" && !next.free ? this.free(next) : next;
  }

  exit(one: Position, price: number): Position {
    const r = one.realised + this.left(one) * this.r(one, price);
    return { ...one, phase: "done", realised: r, said: [...one.said, { event: "stopped", price, r }] };
  }

  open(one: Position, open: number): Position {
    const { sign, order, entry, stop, wrong, targets, breakEven } = this.scenario;
    if (one.phase === "armed") {
      if (sign * (open - wrong) < 0 || sign * (open - stop) <= 0)
        return { ...one, phase: "done", said: [{ event: "invalid", price: open }] };
      if (order === "market" || (entry !== undefined && sign * (order === "limit" ? entry - open : open - entry) >= 0))
        return this.enter(one, open);
      return one;
    }
    if (one.phase !== "open") return one;
    if (sign * (open - one.stop) <= 0) return this.exit(one, open);
    for (;;) {
      if (one.phase !== "open") return one;
      const target = targets[one.hit].price;
      const at = typeof breakEven === "number" && !one.free ? one.fill + sign * breakEven * one.risk : undefined;
      const freeFirst = at !== undefined && sign * (at - target) < 0;
      if (freeFirst && sign * (open - at) >= 0) one = this.free(one);
      else if (sign * (open - target) >= 0) one = this.take(one, open);
      else return one;
    }
  }

  /** The prices something may happen at, wherever they lie between the ticks. */
  prices({ fill, risk, stop: moved }: Position): number[] {
    const { sign, entry = NaN, stop, wrong, targets, breakEven, through } = this.scenario;
    const free = typeof breakEven === "number" ? [fill, entry].map((from) => from + sign * breakEven * risk) : [];
    const passed = targets.map(({ price }) => price + sign * through);
    return [entry, entry - sign * through, stop, moved, wrong, fill, ...passed, ...free].filter(Number.isFinite);
  }

  /** What standing at a price does, again and again until nothing more happens. */
  at(one: Position, price: number): Position {
    const { sign, order, entry, wrong, targets, breakEven, through } = this.scenario;
    for (;;) {
      const before = one;
      if (one.phase === "armed") {
        if (sign * (price - wrong) < 0) return { ...one, phase: "done", said: [{ event: "invalid", price: wrong }] };
        if (order === "limit" && entry !== undefined && sign * (entry - sign * through - price) >= 0)
          one = this.enter(one, entry);
        else if (order === "stop" && entry !== undefined && sign * (price - entry) >= 0) one = this.enter(one, entry);
      } else if (one.phase === "open") {
        const target = targets[one.hit].price;
        const free =
          typeof breakEven === "number" && !one.free ? one.fill + sign * breakEven * one.risk : Infinity * sign;
        const reached = sign * (price - (target + sign * through)) >= 0;
        if (sign * (price - one.stop) <= 0) one = this.exit(one, one.stop);
        else if (sign * (price - free) >= 0 && !(reached && sign * (free - target) >= 0)) one = this.free(one);
        else if (reached) one = this.take(one, target);
      }
      if (one === before) return one;
    }
  }
}

export interface End {
  one: Position;
  /** For each way: the furthest prices while open. */
  spans: { high: number; low: number }[];
}

const signature = ({ said }: Position) => JSON.stringify(said);

/** Where price stands on its way through a bar: every half tick, every price that matters, and between each two. */
function placesOf(trade: PlainTrade, start: Position, { open, high, low, close }: PlainBar): number[] {
  const halves = Array.from({ length: 2 * (high - low) + 1 }, (_, n) => low + n / 2);
  const inside = [...halves, open, close, ...trade.prices(start)].filter((price) => price >= low && price <= high);
  const sorted = [...new Set(inside)].sort((a, b) => a - b);
  return sorted.flatMap((price, n) => (n === 0 ? [price] : [(sorted[n - 1] + price) / 2, price]));
}

/** All that the ways through a bar make of a position: price walks from place to place, from the open to the close. */
export function plainWays(trade: PlainTrade, start: Position, bar: PlainBar): End[] {
  const ends = new Map<string, End>();
  const seen = new Set<string>();
  const places = placesOf(trade, start, bar);
  const walk: { at: number; one: Position; top: boolean; bottom: boolean; high: number; low: number }[] = [];
  const arrive = (at: number, from: Position, last: { top: boolean; bottom: boolean; high: number; low: number }) => {
    const price = places[at];
    const one = trade.at(from, price);
    const counts =
      from.phase === "open" || one.said.some(({ event }, i) => event === "entered" && i >= from.said.length);
    const high = counts ? Math.max(last.high, price) : last.high;
    const low = counts ? Math.min(last.low, price) : last.low;
    const [top, bottom] = [last.top || price === bar.high, last.bottom || price === bar.low];
    const key = `${price} ${top} ${bottom} ${high} ${low} ${signature(one)}`;
    if (seen.has(key)) return;
    seen.add(key);
    if (one.phase === "done" || (price === bar.close && top && bottom)) {
      const end = ends.get(signature(one)) ?? { one, spans: [] };
      end.spans.push({ high, low });
      ends.set(signature(one), end);
    }
    if (one.phase !== "done") walk.push({ at, one, top, bottom, high, low });
  };
  arrive(places.indexOf(bar.open), start, { top: false, bottom: false, high: -Infinity, low: Infinity });
  for (let here = walk.pop(); here; here = walk.pop())
    for (const at of [here.at - 1, here.at + 1]) if (at >= 0 && at < places.length) arrive(at, here.one, here);
  return [...ends.values()];
}

/** What every way passes: of the highest prices the lowest, of the lowest the highest. */
export function pick({ spans }: End, of: "high" | "low"): number {
  return of === "high" ? Math.min(...spans.map(({ high }) => high)) : Math.max(...spans.map(({ low }) => low));
}
