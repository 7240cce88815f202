/**
 * A second evaluator of scenarios, to check the first by: it shares no code with it, is made for being obvious and is
 * slow. Prices are whole ticks, time is minutes, days begin at midnight UTC, and price walks in half ticks through
 * every way a bar allows.
 */

import { closesOf, plainTold, type PlainBar, type PlainLayer, type ToldBar } from "#core/testing/plainTold";

export type PlainCondition =
  | { on: "close"; side: "above" | "below"; price: number; minutes: number }
  | { on: "hold"; side: "above" | "below"; price: number; bars: number; minutes: number }
  | { on: "sweep"; side: "high" | "low"; price: number; within: number; minutes: number }
  | { on: "touch"; price: number }
  | { on: "leave"; band: [number, number]; by: number; side: "above" | "below" };

export interface PlainScenario {
  since: number;
  sign: 1 | -1;
  while: PlainCondition[];
  if: { when: PlainCondition; within?: number }[];
  unless: PlainCondition[];
  order: "market" | "limit" | "stop";
  entry?: number;
  stop: number;
  targets: { price: number; share: number }[];
  breakEven: "target" | number | null;
  wrong: number;
  expires: number;
  leastReward?: number;
  cost: number;
  through: number;
}

export interface PlainEvent {
  event: string;
  at: number;
  knownAt: number;
  price: number;
  step?: number;
  target?: number;
  r?: number;
  ambiguous?: boolean;
}

export interface PlainResult {
  r: number;
  rBest?: number;
  best: number;
  worst: number;
  ambiguous: boolean;
  state: string;
}

/** Whether a condition is met at each of its bars since an instant, with the told bar it is known with. */
function judged(condition: PlainCondition, told: readonly ToldBar[], since: number): { known: number; met: boolean }[] {
  const own = told.map((bar, known) => ({ ...bar, known }));
  const bars = ("minutes" in condition ? closesOf(told, condition.minutes) : own).filter(({ from }) => from >= since);
  const beyond = (side: string, a: number, b: number) => (side === "above" || side === "high" ? a > b : a < b);
  return bars.map((bar, i) => {
    const { known } = bar;
    switch (condition.on) {
      case "close":
        return { known, met: beyond(condition.side, bar.close, condition.price) };
      case "touch":
        return { known, met: bar.low <= condition.price && bar.high >= condition.price };
      case "leave": {
        const [bottom, top] = condition.band;
        const gone = condition.side === "above" ? bar.close - top : bottom - bar.close;
        return { known, met: gone >= condition.by };
      }
      case "hold": {
        const row = bars.slice(Math.max(0, i - condition.bars + 1), i + 1);
        const all = row.every(({ close }) => beyond(condition.side, close, condition.price));
        return { known, met: row.length === condition.bars && all };
      }
      case "sweep": {
        const wick = (one: PlainBar) =>
          beyond(condition.side, condition.side === "high" ? one.high : one.low, condition.price);
        const back = (one: PlainBar) => !beyond(condition.side, one.close, condition.price);
        // The last wick beyond, with no close back between it and this bar.
        for (let j = i; j >= Math.max(0, i - condition.within); j--) {
          if (j < i && back(bars[j])) break;
          if (wick(bars[j])) return { known, met: back(bar) };
        }
        return { known, met: false };
      }
    }
  });
}

interface Position {
  phase: "armed" | "open" | "done";
  fill: number;
  risk: number;
  stop: number;
  hit: number;
  free: boolean;
  realised: number;
  said: { event: string; price: number; target?: number; r?: number }[];
}

/**
 * One trade, step by step. Positions are prices in half ticks divided by two, so that "beyond" has a place of its own.
 */
class PlainTrade {
  constructor(private readonly scenario: PlainScenario) {}

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
    const risk = scenario.entry === undefined ? left : scenario.sign * (scenario.entry - scenario.stop);
    if (scenario.sign * (fill - scenario.targets[0].price) >= 0 || left < risk / 4)
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
    return { ...one, free: true, stop: one.fill, said: [...one.said, { event: "breakEven", price: one.fill }] };
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

interface End {
  one: Position;
  /** For each way: the furthest prices while open. */
  spans: { high: number; low: number }[];
}

const signature = ({ said }: Position) => JSON.stringify(said);

/** All that the ways through a bar make of a position: price walks in half ticks from the open to the close. */
function plainWays(trade: PlainTrade, start: Position, bar: PlainBar): End[] {
  const ends = new Map<string, End>();
  const seen = new Set<string>();
  const walk: { price: number; one: Position; top: boolean; bottom: boolean; high: number; low: number }[] = [];
  const arrive = (
    price: number,
    from: Position,
    last: { top: boolean; bottom: boolean; high: number; low: number },
  ) => {
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
    if (one.phase !== "done") walk.push({ price, one, top, bottom, high, low });
  };
  arrive(bar.open, start, { top: false, bottom: false, high: -Infinity, low: Infinity });
  for (let here = walk.pop(); here; here = walk.pop())
    for (const step of [-0.5, 0.5]) {
      const price = here.price + step;
      if (price >= bar.low && price <= bar.high) arrive(price, here.one, here);
    }
  return [...ends.values()];
}

/** What becomes of a scenario. */
export function plainScenario(
  layers: readonly PlainLayer[],
  scenario: PlainScenario,
): { events: PlainEvent[]; result: PlainResult } {
  const told = plainTold(layers);
  const trade = new PlainTrade(scenario);
  const events: PlainEvent[] = [];
  const { sign } = scenario;
  let since = scenario.since;
  let step = 0;
  let one: Position | undefined;
  let waiting = scenario.if.length > 0;
  let [best, worst, ambiguous, done, close] = [0, 0, false, false, NaN];
  let others: Position[] = [];
  let bestDone: number | undefined;
  const arm = (): Position => {
    const risk = scenario.entry === undefined ? 0 : sign * (scenario.entry - scenario.stop);
    return { phase: "armed", fill: 0, risk, stop: scenario.stop, hit: 0, free: false, realised: 0, said: [] };
  };
  if (!waiting) one = arm();
  told.forEach((bar, i) => {
    if (bar.from < scenario.since || (done && others.length === 0)) return;
    close = bar.close;
    const tell = (event: string, price: number, more: Partial<PlainEvent> = {}) =>
      events.push({ event, at: bar.from, knownAt: bar.to, price, ...more });
    const gone = others.flatMap((other) => {
      const opened = trade.open({ ...other, said: [] }, bar.open);
      return opened.phase === "done" ? [opened] : plainWays(trade, { ...opened, said: [] }, bar).map((end) => end.one);
    });
    for (const other of gone.filter(({ phase }) => phase === "done"))
      bestDone = Math.max(bestDone ?? -Infinity, other.realised);
    const going = gone.filter(({ phase }) => phase !== "done");
    const alike = (a: Position, b: Position) =>
      a.hit === b.hit && a.stop === b.stop && a.fill === b.fill && a.free === b.free;
    others = going.filter((a) => going.every((b) => !alike(a, b) || b.realised <= a.realised));
    if (done) return;
    const entered = one?.phase === "open";
    if (!entered) {
      if (bar.from >= scenario.expires) return end("expired", bar.open);
      if (!one && sign * (bar.open - scenario.wrong) < 0) return end("invalid", bar.open);
      if (!one && sign * ((sign > 0 ? bar.low : bar.high) - scenario.wrong) < 0) return end("invalid", scenario.wrong);
    }
    if (one) {
      const opened = trade.open({ ...one, said: [] }, bar.open);
      for (const said of opened.said) tell(said.event, said.price, said);
      if (entered) span(one, bar.open, bar.open);
      one = opened;
      if (one.phase !== "done") {
        const wasOpen = one.phase === "open";
        const ends = plainWays(trade, { ...one, said: [] }, bar);
        const rank = (a: End, b: End) => {
          const difference = trade.value(a.one, bar.close) - trade.value(b.one, bar.close);
          if (Math.abs(difference) > 1e-9) return difference;
          if ((a.one.phase === "done") !== (b.one.phase === "done")) return a.one.phase === "done" ? -1 : 1;
          return a.one.said.length - b.one.said.length;
        };
        const [counted, ...rest] = [...ends].sort(rank);
        if (rest.length > 0) ambiguous = true;
        for (const said of counted.one.said)
          tell(said.event, said.price, { ...said, ...(rest.length > 0 ? { ambiguous: true } : {}) });
        if (wasOpen || counted.one.said.some(({ event }) => event === "entered"))
          span(counted.one, pick(counted, "high"), pick(counted, "low"));
        for (const { one: other } of rest) {
          if (other.phase === "done") bestDone = Math.max(bestDone ?? -Infinity, other.realised);
          else others.push(other);
        }
        one = counted.one;
      }
      if (one.phase === "done") {
        done = true;
        return;
      }
      if (one.phase === "open") return;
    }
    const known = (condition: PlainCondition, from: number) =>
      judged(condition, told.slice(0, i + 1), from).filter((judgement) => judgement.known === i);
    if (scenario.while.some((condition) => known(condition, scenario.since).some(({ met }) => !met)))
      return end("cancelled", bar.close);
    if (scenario.unless.some((condition) => known(condition, scenario.since).some(({ met }) => met)))
      return end("cancelled", bar.close);
    if (!waiting) return;
    const { when, within } = scenario.if[step];
    const all = judged(when, told.slice(0, i + 1), since);
    const before = all.filter((judgement) => judgement.known < i).length;
    const now = all.slice(before);
    const first = now.findIndex(({ met }) => met);
    const limit = within === undefined ? Infinity : within - before;
    if (first < 0 || first >= limit) {
      if (now.length >= limit) end("cancelled", bar.close);
      return;
    }
    step++;
    since = bar.to;
    tell(step === scenario.if.length ? "triggered" : "step", bar.close, { step });
    if (step < scenario.if.length) return;
    waiting = false;
    const entry = scenario.entry ?? bar.close;
    const reward = scenario.targets.reduce(
      (sum, { price, share }) => sum + (share * (price - entry)) / (entry - scenario.stop),
      0,
    );
    if (scenario.entry !== undefined && sign * (scenario.entry - scenario.stop) <= 0)
      return end("cancelled", bar.close);
    if (scenario.leastReward !== undefined && !(reward >= scenario.leastReward - 1e-9)) return end("passed", bar.close);
    one = arm();

    function end(event: string, price: number): void {
      tell(event, price);
      done = true;
    }
    function span(of: Position, high: number, low: number): void {
      const [a, b] = [trade.r(of, high), trade.r(of, low)];
      best = Math.max(best, a, b);
      worst = Math.min(worst, a, b);
    }
  });
  const r = one && one.risk !== 0 && (one.phase === "open" || one.phase === "done") ? trade.value(one, close) : 0;
  const rBest = Math.max(r, bestDone ?? -Infinity, ...others.map((other) => trade.value(other, close)));
  const state = done ? "done" : one ? one.phase : "waiting";
  return { events, result: { r, ...(ambiguous ? { rBest } : {}), best, worst, ambiguous, state } };
}

/** What every way passes: of the highest prices the lowest, of the lowest the highest. */
function pick({ spans }: End, of: "high" | "low"): number {
  return of === "high" ? Math.min(...spans.map(({ high }) => high)) : Math.max(...spans.map(({ low }) => low));
}
