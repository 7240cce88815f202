import { conditionOf, nextStep, startSteps, type Terms } from "#core/conditions/registry";
import type { Look } from "#core/conditions/condition";
import { isBound } from "#core/conditions/price";
import type { StepsState } from "#core/conditions/steps";
import type { ClosedBar } from "#core/observe/closedBar";
import { asInstant, type Instant } from "#core/observe/instant";
import type { Moment } from "#core/observe/tape";
import type { Quiet, Step, Watcher } from "#core/observe/watcher";
import type { FollowUp, Reason } from "#core/scenarios/events";
import { otherWays, type Others } from "#core/scenarios/otherWays";
import { bindStep, OrdersOn, type BoundPrices } from "#core/scenarios/prices";
import { quietOf } from "#core/scenarios/quiet";
import { needsOfTerms, type ScenarioTerms } from "#core/scenarios/terms";
import {
  arm,
  atOpen,
  inR,
  isFilledAt,
  reaches,
  standing,
  throughBar,
  trailed,
  valueAt,
  type Course,
  type Orders,
  type Trade,
} from "#core/scenarios/trade";

/** Where a scenario stands: plain data. */
export interface ScenarioState {
  phase: "waiting" | "armed" | "open" | "done";
  steps: StepsState;
  /** States of the conditions that must hold, and of those that must not come. */
  holds: readonly unknown[];
  unless: readonly unknown[];
  trade: Trade | null;
  /** What else may have become of it on ambiguous bars; none while there were none. */
  others: Others | null;
  /** Furthest favourable and adverse move while open that is certain, in R from the fill. */
  best: number;
  worst: number;
  ambiguous: boolean;
  /** The last close it was shown while it was open. */
  close: number;
  /** Prices that steps have made known; none where nothing is bound. */
  bound?: BoundPrices;
}

/** What a scenario is followed with besides its terms. */
export interface ScenarioFacts {
  since: Instant;
  tick: number;
  zone: string;
}

export interface ScenarioResult {
  /** What it has made so far, the open part at the last close; 0 before an entry. */
  r: number;
  /** The most that any sequence of ways ends with, where ways differ. */
  rBest?: number;
  best: number;
  worst: number;
  ambiguous: boolean;
  state: ScenarioState["phase"];
}

/** Prices count as equal within this share of a tick. */
const SAME = 1e-3;

/** A scenario as a watcher. The order of evaluation within a bar is that of `next`, from top to bottom. */
export function scenarioWatcher(terms: ScenarioTerms, facts: ScenarioFacts): Watcher<ScenarioState, FollowUp> {
  const run = new Run(terms, facts);
  return {
    needs: needsOfTerms(terms),
    since: facts.since,
    start: run.start(),
    next: (state, moment) => run.next(state, moment),
    quiet: (state) => run.quiet(state),
    isDone: ({ phase, others }) => phase === "done" && (others?.open.length ?? 0) === 0,
  };
}

/** What it has come to, or stands at. */
export function resultOf(terms: ScenarioTerms, facts: ScenarioFacts, state: ScenarioState): ScenarioResult {
  const { trade, others, best, worst, ambiguous, phase, close } = state;
  const orders = fixedOf(terms, facts);
  const entered = trade && trade.risk !== 0 && (phase === "open" || phase === "done");
  const r = entered ? valueAt(orders, trade, close) : 0;
  const rBest = others ? Math.max(r, others.done ?? r, ...others.open.map((one) => valueAt(orders, one, close))) : r;
  return { r, ...(ambiguous ? { rBest } : {}), best, worst, ambiguous, state: phase };
}

/** What is risked and aimed at, at the prices of a moment; risk in price units, as planned. */
export function plannedOf(
  terms: ScenarioTerms,
  facts: Omit<ScenarioFacts, "since">,
  { trade, bound }: ScenarioState,
  moment: Moment,
): { risk: number; targets: number[] } {
  const orders = new OrdersOn(terms, fixedOf(terms, facts)).at(bound ?? NOTHING_BOUND, moment);
  return { risk: trade?.risk ?? NaN, targets: orders.targets.map(({ price }) => price) };
}

/** What of its orders is no price, and the shares of its targets. */
function fixedOf(terms: ScenarioTerms, { tick }: Pick<ScenarioFacts, "tick">): Omit<Orders, "entry" | "wrong"> {
  const { direction, entry, targets, breakEven, cost, through } = terms;
  return {
    sign: direction === "long" ? 1 : -1,
    order: entry.order,
    stop: NaN,
    targets: targets.map(({ share }) => ({ price: NaN, share })),
    breakEven,
    cost,
    through: through * tick,
    tolerance: tick * SAME,
  };
}

const NOTHING_BOUND: BoundPrices = {};
const NO_EVENTS: readonly FollowUp[] = [];

/** What a told bar is met with: the prices of then, where structure would have the stop, and who writes it down. */
interface OnBar {
  orders: Orders;
  told: ClosedBar;
  line: number | undefined;
  out: Said;
}

class Run {
  private readonly prices: OrdersOn;
  private readonly fixed: ReturnType<typeof fixedOf>;
  /** For each step the rung at whose closes alone something may change; none where other bars may change it, too. */
  private readonly rungs: readonly (string | undefined)[];
  private readonly wrong: number | undefined;

  constructor(
    private readonly terms: ScenarioTerms,
    private readonly facts: ScenarioFacts,
  ) {
    this.fixed = fixedOf(terms, facts);
    this.prices = new OrdersOn(terms, this.fixed);
    const { while: holds, unless, if: steps, wrong } = terms;
    if (typeof wrong === "number") this.wrong = wrong;
    const isFixed = typeof wrong !== "object" || isBound(wrong);
    const isAlone = isFixed && holds.length + unless.length === 0;
    this.rungs = steps.map(({ when }) => (isAlone && "rung" in when ? when.rung : undefined));
  }

  start(): ScenarioState {
    const { terms, facts } = this;
    const begin = (of: readonly Terms[]) => of.map((one) => conditionOf(one).start(one));
    return {
      phase: terms.if.length === 0 ? "armed" : "waiting",
      steps: startSteps(terms.if, facts.since),
      holds: begin(terms.while),
      unless: begin(terms.unless),
      trade: null,
      others: null,
      best: 0,
      worst: 0,
      ambiguous: false,
      close: 0,
    };
  }

  next(before: ScenarioState, moment: Moment): Step<ScenarioState, FollowUp> {
    if (this.isIdle(before, moment)) return { state: before, events: NO_EVENTS };
    const { told } = moment;
    const line = this.terms.trail ? this.lineOf(moment) : undefined;
    const orders = this.prices.at(before.bound ?? NOTHING_BOUND, moment);
    const others = before.others && otherWays(orders, before.others, told, line);
    // Only an open trade is worth something else at every close: what waits stays the same, and need not be kept anew.
    const close = before.phase === "open" || others ? told.close : before.close;
    let state: ScenarioState = { ...before, others, close };
    if (state.phase === "done") return { state, events: [] };
    const calm = this.calm(state, orders, told);
    if (calm) return { state: calm, events: NO_EVENTS };
    // Without steps the order rests from the beginning, as soon as its prices are known.
    if (state.phase === "armed" && !state.trade && this.prices.isKnown(orders))
      state = { ...state, trade: arm(orders) };
    if (state.trade) state = { ...state, trade: standing(orders, state.trade) };
    const out = new Said(told);
    const bar: OnBar = { orders, told, line, out };
    if (state.phase === "open") return { state: this.manage(state, bar), events: out.events };
    state = this.untilEntry(state, bar);
    if (state.phase === "waiting" || state.phase === "armed") state = this.atClose(state, moment, out);
    return { state, events: out.events };
  }

  /**
   * Whether a bar changes nothing for a scenario that waits: it has not expired, is not wrong, and the rung that its
   * step listens to has not closed.
   */
  private isIdle({ phase, others, bound, steps }: ScenarioState, moment: Moment): boolean {
    if (phase !== "waiting" || others) return false;
    const rung = this.rungs[steps.met.length];
    if (rung === undefined || moment.closes(rung).length > 0) return false;
    const { told } = moment;
    if (told.from >= this.terms.expires) return false;
    const price = this.wrong ?? bound?.wrong?.price;
    if (price === undefined) return true;
    const { sign, tolerance } = this.fixed;
    return sign * ((sign > 0 ? told.low : told.high) - price) >= -tolerance;
  }

  /** What `isIdle` and `calm` let pass, said beforehand. */
  quiet(state: ScenarioState): Quiet | undefined {
    const { sign, tolerance } = this.fixed;
    const wrong = this.wrong ?? state.bound?.wrong?.price;
    const orders = () => this.prices.fixedAt(state.bound ?? NOTHING_BOUND);
    const rung = this.rungs[state.steps.met.length];
    return quietOf(this.terms, state, { rung, wrong, sign, tolerance, orders });
  }

  /**
   * An order or an open trade after a bar that reached nothing, not even at its open: of a trade the furthest prices
   * and the close change, of an order nothing.
   */
  private calm(state: ScenarioState, orders: Orders, told: ClosedBar): ScenarioState | undefined {
    const { trade, best, worst, phase } = state;
    if (!trade || this.terms.trail || orders.stopMoves || reaches(orders, trade, told)) return undefined;
    const { sign } = this.fixed;
    if (phase === "open") {
      const [up, down] = sign > 0 ? [told.high, told.low] : [told.low, told.high];
      const [further, deeper] = [inR(orders, trade, up), inR(orders, trade, down)];
      return { ...state, close: told.close, best: Math.max(best, further), worst: Math.min(worst, deeper) };
    }
    const { while: holds, unless, expires } = this.terms;
    if (holds.length + unless.length > 0 || told.from >= expires || isFilledAt(orders, told.open)) return undefined;
    return state;
  }

  /** Before an entry: what is known at the open, then the ways through the bar. */
  private untilEntry(state: ScenarioState, bar: OnBar): ScenarioState {
    const { orders, told, out } = bar;
    const { terms } = this;
    const { sign, wrong, tolerance } = orders;
    if (told.from >= terms.expires) return out.end(state, "expired", told.open);
    const { trade } = state;
    if (!trade) {
      if (wrong === undefined) return state;
      if (sign * (told.open - wrong) < -tolerance) return out.end(state, "invalid", told.open);
      const wick = sign > 0 ? told.low : told.high;
      return sign * (wick - wrong) < -tolerance ? out.end(state, "invalid", wrong) : state;
    }
    const opened = atOpen(orders, trade, told.open);
    out.tell(opened);
    return this.through({ ...state, trade: opened.trade, phase: opened.trade.phase }, bar);
  }

  private manage(state: ScenarioState, bar: OnBar): ScenarioState {
    const { orders, told, out } = bar;
    if (!state.trade) return state;
    const opened = atOpen(orders, state.trade, told.open);
    out.tell(opened);
    // What it passed at the open belongs to its furthest prices, though a gap ended it there.
    const passed = this.furthest(state, state.trade, told.open, told.open);
    return this.through({ ...passed, trade: opened.trade, phase: opened.trade.phase }, bar);
  }

  /** From the open to the close, by the way that counts; the other ways are kept beside it. */
  private through(state: ScenarioState, { orders, told, line, out }: OnBar): ScenarioState {
    const { trade } = state;
    if (!trade || trade.phase === "done") return state;
    const { counted, others, high, low } = throughBar(orders, trade, told);
    const ambiguous = others.length > 0;
    out.tell(counted, ambiguous);
    const { phase } = counted.trade;
    const close = phase === "armed" ? state.close : told.close;
    let next: ScenarioState = { ...state, trade: counted.trade, phase, close };
    const entered = counted.trade.risk !== 0 && counted.events.some(({ event }) => event === "entered");
    if (trade.phase === "open" || entered) next = this.furthest(next, counted.trade, high, low);
    if (ambiguous) {
      const went = others.map((course) => trailed(orders, course.trade, told.close, line));
      next = { ...next, ambiguous, others: joinWays(next.others, went) };
    }
    const moved = trailed(orders, counted.trade, told.close, line);
    if (moved !== counted.trade) out.say("trailed", moved.stop);
    return { ...next, trade: moved };
  }

  private furthest(state: ScenarioState, trade: Trade, high: number, low: number): ScenarioState {
    const [with_, against] = this.fixed.sign > 0 ? [high, low] : [low, high];
    const best = Math.max(state.best, inR(this.fixed, trade, with_));
    return { ...state, best, worst: Math.min(state.worst, inR(this.fixed, trade, against)) };
  }

  /** Where structure would have the stop after this moment's closes. */
  private lineOf(moment: Moment): number | undefined {
    const { trail, direction } = this.terms;
    if (!trail) return undefined;
    const line = moment.closes(trail.rung).at(-1)?.line;
    return line?.way === (direction === "long" ? "up" : "down") ? line.price : undefined;
  }

  /** What closes say while there is no entry: what must hold, what must not come, then the next step. */
  private atClose(state: ScenarioState, moment: Moment, out: Said): ScenarioState {
    const { terms, facts, fixed } = this;
    const trade = { sign: fixed.sign, tick: facts.tick };
    const look = { moment, tolerance: fixed.tolerance, zone: facts.zone, trade };
    const kept = this.judge(terms.while, state.holds, look, (met) => met === false);
    if (kept.at >= 0) return out.cancel(state, "while", kept.at + 1);
    const came = this.judge(terms.unless, state.unless, look, (met) => met === true);
    if (came.at >= 0) return out.cancel(state, "unless", came.at + 1);
    const next = { ...state, holds: kept.states, unless: came.states };
    if (next.phase !== "waiting") return next;
    const step = nextStep(terms.if, next.steps, look);
    const number = next.steps.met.length + 1;
    if (step.lapsed) return out.cancel(next, "late", number);
    if (!step.isMet) return { ...next, steps: step.state };
    const last = number === terms.if.length;
    out.say(last ? "triggered" : "step", moment.told.close, { step: number });
    const { bound, unbound } = bindStep(
      terms,
      next.bound ?? NOTHING_BOUND,
      step.state.met,
      asInstant(moment.told.to),
      trade,
      ({ previous, of }) => moment.previous(previous)?.[of],
    );
    const met = { ...next, steps: step.state, ...(Object.keys(bound).length > 0 ? { bound } : {}) };
    if (unbound !== undefined) return out.cancel(met, "bind", undefined, unbound);
    return last ? this.triggered(met, moment, out) : met;
  }

  private judge(
    of: readonly Terms[],
    states: readonly unknown[],
    look: Omit<Look, "since" | "met">,
    fails: (met: boolean | undefined) => boolean,
  ): { states: unknown[]; at: number } {
    const since = this.facts.since;
    const judged = of.map((terms, i) => conditionOf(terms).next(terms, states[i], { ...look, since, met: [] }));
    const at = judged.findIndex((one) => one.judged.some(({ met }) => fails(met)));
    return { states: judged.map(({ state }) => state), at };
  }

  /** The order rests from now on, if its prices stand as they must and are worth it. */
  private triggered(state: ScenarioState, moment: Moment, out: Said): ScenarioState {
    const { terms } = this;
    const { told } = moment;
    const orders = this.prices.at(state.bound ?? NOTHING_BOUND, moment);
    if (!this.prices.isKnown(orders)) return out.cancel(state, "bind");
    const { sign, stop, targets } = orders;
    const entry = orders.entry ?? told.close;
    const risk = sign * (entry - stop);
    if (orders.entry !== undefined && risk <= 0) return out.cancel(state, "geometry");
    const reward = targets.reduce((sum, { price, share }) => sum + (share * sign * (price - entry)) / risk, 0);
    if (terms.leastReward !== undefined && !(reward >= terms.leastReward - 1e-9))
      return out.end(state, "passed", told.close);
    return { ...state, phase: "armed", trade: arm(orders) };
  }
}

function joinWays(before: Others | null, more: readonly Trade[]): Others {
  const done = more.filter(({ phase }) => phase === "done").map(({ realised }) => realised);
  const open = more.filter(({ phase }) => phase !== "done");
  const most = Math.max(before?.done ?? -Infinity, ...done);
  return { done: most === -Infinity ? null : most, open: [...(before?.open ?? []), ...open] };
}

/** What is said of one told bar. */
class Said {
  readonly events: FollowUp[] = [];

  constructor(private readonly told: ClosedBar) {}

  say(event: FollowUp["event"], price: number, more: Partial<FollowUp> = {}): void {
    const { from, to } = this.told;
    this.events.push({ event, at: from, knownAt: to, price, ...more });
  }

  tell({ events }: Course, ambiguous = false): void {
    for (const { event, price, ...more } of events)
      this.say(event, price, { ...more, ...(ambiguous ? { ambiguous } : {}) });
  }

  end(state: ScenarioState, event: FollowUp["event"], price: number): ScenarioState {
    this.say(event, price);
    return { ...state, phase: "done" };
  }

  cancel(state: ScenarioState, reason: Reason, which?: number, field?: string): ScenarioState {
    const more = { ...(which === undefined ? {} : { which }), ...(field === undefined ? {} : { field }) };
    this.say("cancelled", this.told.close, { reason, ...more });
    return { ...state, phase: "done" };
  }
}
