import type { Bar } from "#core/series/series";
import { signOf, type Scenario } from "#core/scenarios/scenario";

export type FollowUpName =
  "triggered" | "entered" | "target" | "breakEven" | "stopped" | "invalid" | "expired" | "completed";

export interface FollowUp {
  event: FollowUpName;
  /** Open of the bar it happened on (ms UTC); the trigger's is the close of the bar that triggered. */
  time: number;
  price: number;
  /** Which target, from 1. */
  target?: number;
  /** Result so far in multiples of the risk, for events that end or realise something. */
  r?: number;
  /** One bar held both the stop and a target: the stop was counted first. */
  ambiguous?: boolean;
}

export interface FollowState {
  phase: "waiting" | "armed" | "open" | "done";
  entered: number;
  /** Where the stop stands now; at the entry once target 1 is reached. */
  stop: number;
  hit: number;
  realised: number;
  /** Furthest favourable and adverse move while open, in R. */
  best: number;
  worst: number;
}

/** A close of the trigger's timeframe that became known at `time`. */
export interface TimeframeClose {
  time: number;
  close: number;
}

export const WAITING: FollowState = { phase: "waiting", entered: 0, stop: 0, hit: 0, realised: 0, best: 0, worst: 0 };

/**
 * One bar of the finest resolution there is, and the trigger timeframe's close that this bar completed, if any.
 * In order: expiry (at the bar's open), invalidation or fill, stop before target where one bar holds both, target
 * gaps filled at the open. After target 1 the stop stands at the entry. A fill inside the bar (limit or stop
 * order) can be stopped on that bar but reaches targets only from the next, for the order within is unknown.
 */
export function followPlan(
  plan: Scenario,
  state: FollowState,
  bar: Bar,
  closed: TimeframeClose | undefined,
  emit: (event: FollowUp) => void,
): FollowState {
  switch (state.phase) {
    case "done":
      return state;
    case "open":
      return manage(plan, state, bar, true, emit);
    case "armed":
      return fill(plan, state, bar, emit);
    case "waiting":
      return wait(plan, state, bar, closed, emit);
  }
}

function end(state: FollowState): FollowState {
  return { ...state, phase: "done" };
}

function wait(
  plan: Scenario,
  state: FollowState,
  bar: Bar,
  closed: TimeframeClose | undefined,
  emit: (event: FollowUp) => void,
): FollowState {
  if (bar.time >= plan.expiry) {
    emit({ event: "expired", time: bar.time, price: bar.open });
    return end(state);
  }
  if (isWrong(plan, bar)) {
    emit({ event: "invalid", time: bar.time, price: plan.invalidation });
    return end(state);
  }
  if (!closed) return state;
  const beyond =
    plan.trigger.event === "closeAbove" ? closed.close > plan.trigger.price : closed.close < plan.trigger.price;
  if (!beyond) return state;
  emit({ event: "triggered", time: closed.time, price: closed.close });
  return { ...state, phase: "armed" };
}

function isWrong(plan: Scenario, bar: Bar): boolean {
  return signOf(plan) > 0 ? bar.low < plan.invalidation : bar.high > plan.invalidation;
}

function fill(plan: Scenario, state: FollowState, bar: Bar, emit: (event: FollowUp) => void): FollowState {
  const sign = signOf(plan);
  if (bar.time >= plan.expiry) {
    emit({ event: "expired", time: bar.time, price: bar.open });
    return end(state);
  }
  const wrongAtOpen = sign * (bar.open - plan.invalidation) < 0 || sign * (bar.open - plan.stop) <= 0;
  if (wrongAtOpen) {
    emit({ event: "invalid", time: bar.time, price: bar.open });
    return end(state);
  }
  const price = fillPrice(plan, bar);
  if (price === undefined) {
    if (!isWrong(plan, bar)) return state;
    emit({ event: "invalid", time: bar.time, price: plan.invalidation });
    return end(state);
  }
  emit({ event: "entered", time: bar.time, price });
  const open: FollowState = { ...state, phase: "open", entered: price, stop: plan.stop };
  return manage(plan, open, bar, price === bar.open, emit);
}

function fillPrice(plan: Scenario, bar: Bar): number | undefined {
  const sign = signOf(plan);
  const { order, price } = plan.entry;
  switch (order) {
    case "market":
      return bar.open;
    case "limit": {
      const best = sign > 0 ? bar.low : bar.high;
      if (sign * (bar.open - price) <= 0) return bar.open;
      return sign * (best - price) <= 0 ? price : undefined;
    }
    case "stop": {
      const furthest = sign > 0 ? bar.high : bar.low;
      if (sign * (bar.open - price) >= 0) return bar.open;
      return sign * (furthest - price) >= 0 ? price : undefined;
    }
  }
}

function manage(
  plan: Scenario,
  state: FollowState,
  bar: Bar,
  sawWholeBar: boolean,
  emit: (event: FollowUp) => void,
): FollowState {
  const sign = signOf(plan);
  const risk = sign * (state.entered - plan.stop);
  const inR = (price: number) => (sign * (price - state.entered)) / risk;
  const adverse = sign > 0 ? bar.low : bar.high;
  const favourable = sign > 0 ? bar.high : bar.low;
  let next: FollowState = {
    ...state,
    best: sawWholeBar ? Math.max(state.best, inR(favourable)) : state.best,
    worst: Math.min(state.worst, inR(adverse)),
  };
  const left = () => plan.targets.slice(next.hit).reduce((sum, { share }) => sum + share, 0);
  const reached = (i: number) =>
    sawWholeBar && i < plan.targets.length && sign * (favourable - plan.targets[i].price) >= 0;

  if (sign * (adverse - next.stop) <= 0) {
    const gapped = sawWholeBar && sign * (bar.open - next.stop) < 0;
    const price = gapped ? bar.open : next.stop;
    next = { ...end(next), realised: next.realised + left() * inR(price) };
    const ambiguous = reached(next.hit) || (!sawWholeBar && sign * (bar.close - next.stop) > 0);
    emit({ event: "stopped", time: bar.time, price, r: next.realised, ...(ambiguous ? { ambiguous } : {}) });
    return next;
  }
  while (reached(next.hit)) {
    const { price: asked, share } = plan.targets[next.hit];
    const price = sign * (bar.open - asked) > 0 ? bar.open : asked;
    next = { ...next, hit: next.hit + 1, realised: next.realised + share * inR(price) };
    emit({ event: "target", time: bar.time, price, target: next.hit, r: next.realised });
    if (next.hit === plan.targets.length) {
      emit({ event: "completed", time: bar.time, price, r: next.realised });
      return end(next);
    }
    if (next.hit === 1) {
      next.stop = next.entered;
      emit({ event: "breakEven", time: bar.time, price: next.entered });
    }
  }
  return next;
}
