/**
 * A second evaluator of scenarios, to check the first by: it shares no code with it, is made for being obvious and is
 * slow. Prices are whole ticks, lines apart; time is minutes, days begin at midnight UTC, and price walks through
 * every way a bar allows, from place to place.
 */

import { judged, type PlainCondition } from "#core/testing/plainConditions";
import { plainPrice, type PlainMet, type PlainPrice } from "#core/testing/plainPrices";
import { plainTold, type PlainLayer, type ToldBar } from "#core/testing/plainTold";
import { pick, plainWays, PlainTrade, type End, type Position, type Priced } from "#core/testing/plainTrade";

export interface PlainScenario {
  since: number;
  sign: 1 | -1;
  while: PlainCondition[];
  if: { when: PlainCondition; within?: number }[];
  unless: PlainCondition[];
  order: "market" | "limit" | "stop";
  entry?: PlainPrice;
  stop: PlainPrice;
  targets: { price: PlainPrice; share: number }[];
  breakEven: "target" | number | null;
  wrong: PlainPrice;
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

/** What becomes of a scenario; `endedAt`: the told bar after which nothing can come any more. */
export function plainScenario(
  layers: readonly PlainLayer[],
  scenario: PlainScenario,
): { events: PlainEvent[]; result: PlainResult; endedAt?: number } {
  const told = plainTold(layers);
  const events: PlainEvent[] = [];
  const { sign } = scenario;
  const met: PlainMet[] = [];
  const bound = new Map<PlainPrice, number>();
  let since = scenario.since;
  let step = 0;
  let one: Position | undefined;
  let waiting = scenario.if.length > 0;
  let [best, worst, ambiguous, done, close] = [0, 0, false, false, NaN];
  let others: Position[] = [];
  let bestDone: number | undefined;
  let endedAt: number | undefined;
  let trade = new PlainTrade(pricedOn(0));
  told.forEach((bar, i) => {
    if (bar.from < scenario.since || (done && others.length === 0)) return;
    follow(bar, i);
    if (done && others.length === 0) endedAt = i;
  });
  const r = one && one.risk !== 0 && (one.phase === "open" || one.phase === "done") ? trade.value(one, close) : 0;
  const rBest = Math.max(r, bestDone ?? -Infinity, ...others.map((other) => trade.value(other, close)));
  const state = done ? "done" : one ? one.phase : "waiting";
  // An order that rests from the beginning has no steps to wait for, whether or not its prices are known.
  const phase = state === "waiting" && scenario.if.length === 0 ? "armed" : state;
  return { events, result: { r, ...(ambiguous ? { rBest } : {}), best, worst, ambiguous, state: phase }, endedAt };

  function pricedOn(i: number): Priced {
    const value = (price: PlainPrice): number =>
      bound.get(price) ??
      (typeof price === "object" && "bind" in price
        ? NaN
        : (plainPrice(price, told, i, told[i]?.label ?? NaN, met, sign) ?? NaN));
    const entry = scenario.entry === undefined ? NaN : value(scenario.entry);
    return {
      ...scenario,
      entry: Number.isNaN(entry) ? undefined : entry,
      stop: value(scenario.stop),
      targets: scenario.targets.map(({ price, share }) => ({ price: value(price), share })),
      wrong: value(scenario.wrong),
    };
  }

  function isKnown({ entry, stop, targets }: Priced): boolean {
    const prices = [stop, ...targets.map(({ price }) => price)];
    return (scenario.entry === undefined || entry !== undefined) && !prices.some(Number.isNaN);
  }

  function armed({ entry, stop }: Priced): Position {
    const risk = entry === undefined ? 0 : sign * (entry - stop);
    return { phase: "armed", fill: 0, risk, stop, hit: 0, free: false, moved: false, realised: 0, said: [] };
  }

  function follow(bar: ToldBar, i: number): void {
    const now = pricedOn(i);
    trade = new PlainTrade(now);
    if (!waiting && !one && !done && isKnown(now)) one = armed(now);
    const isLine = typeof scenario.stop === "object" && "line" in scenario.stop;
    const stands = (of: Position): Position => (isLine && !of.moved ? { ...of, stop: now.stop } : of);
    if (one) one = stands(one);
    others = others.map(stands);
    close = bar.close;
    const tell = (event: string, price: number, more: Partial<PlainEvent> = {}) =>
      events.push({ event, at: bar.from, knownAt: bar.to, price, ...more });
    const gone = others.flatMap((other) => {
      const opened = trade.open({ ...other, said: [] }, bar.open);
      return opened.phase === "done" ? [opened] : plainWays(trade, { ...opened, said: [] }, bar).map((end) => end.one);
    });
    for (const other of gone.filter(({ phase: at }) => at === "done"))
      bestDone = Math.max(bestDone ?? -Infinity, other.realised);
    const going = gone.filter(({ phase: at }) => at !== "done");
    const alike = (a: Position, b: Position) =>
      a.hit === b.hit && a.stop === b.stop && a.fill === b.fill && a.free === b.free;
    others = going.filter((a) => going.every((b) => !alike(a, b) || b.realised <= a.realised));
    if (done) return;
    const entered = one?.phase === "open";
    if (!entered) {
      if (bar.from >= scenario.expires) return end("expired", bar.open);
      if (!one && sign * (bar.open - now.wrong) < 0) return end("invalid", bar.open);
      if (!one && sign * ((sign > 0 ? bar.low : bar.high) - now.wrong) < 0) return end("invalid", now.wrong);
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
    const judge = (condition: PlainCondition, from: number, steps: readonly PlainMet[]) =>
      judged(condition, told.slice(0, i + 1), from, steps, sign);
    const known = (condition: PlainCondition) =>
      judge(condition, scenario.since, []).filter((judgement) => judgement.known === i);
    if (scenario.while.some((condition) => known(condition).some((judgement) => judgement.met === false)))
      return end("cancelled", bar.close);
    if (scenario.unless.some((condition) => known(condition).some((judgement) => judgement.met === true)))
      return end("cancelled", bar.close);
    if (!waiting) return;
    const { when, within } = scenario.if[step];
    const all = judge(when, since, met);
    const before = all.filter((judgement) => judgement.known < i).length;
    const soFar = all.slice(before);
    const first = soFar.findIndex((judgement) => judgement.met === true);
    const limit = within === undefined ? Infinity : within - before;
    if (first < 0 || first >= limit) {
      if (soFar.length >= limit) end("cancelled", bar.close);
      return;
    }
    step++;
    since = bar.to;
    met.push(soFar[first].left);
    const isLast = step === scenario.if.length;
    tell(isLast ? "triggered" : "step", bar.close, { step });
    if (!bind(i)) return end("cancelled", bar.close);
    if (!isLast) return;
    waiting = false;
    const orders = pricedOn(i);
    if (!isKnown(orders)) return end("cancelled", bar.close);
    const entry = orders.entry ?? bar.close;
    const reward = orders.targets.reduce(
      (sum, { price, share }) => sum + (share * (price - entry)) / (entry - orders.stop),
      0,
    );
    if (orders.entry !== undefined && sign * (entry - orders.stop) <= 0) return end("cancelled", bar.close);
    if (scenario.leastReward !== undefined && !(reward >= scenario.leastReward - 1e-9)) return end("passed", bar.close);
    one = armed(orders);

    function end(event: string, price: number): void {
      tell(event, price);
      done = true;
    }
    function span(of: Position, high: number, low: number): void {
      const [a, b] = [trade.r(of, high), trade.r(of, low)];
      best = Math.max(best, a, b);
      worst = Math.min(worst, a, b);
    }
  }

  /** Makes the prices known that hang on the step that was just met; `false` if one cannot be. */
  function bind(i: number): boolean {
    const { entry, stop, targets, wrong } = scenario;
    const prices = [...(entry === undefined ? [] : [entry]), stop, ...targets.map(({ price }) => price), wrong];
    for (const price of prices) {
      if (typeof price === "number" || !("bind" in price) || price.step !== step) continue;
      const value = plainPrice(price, told, i, NaN, met, sign);
      if (value === undefined) return false;
      bound.set(price, value);
    }
    if (step < scenario.if.length) return true;
    const planned = pricedOn(i);
    const from = planned.entry ?? met[step - 1].close;
    for (const price of prices)
      if (typeof price === "object" && "r" in price) bound.set(price, from + price.r * (from - planned.stop));
    return true;
  }
}
