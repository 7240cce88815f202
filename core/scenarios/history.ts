import { asInstant, type Instant } from "#core/observe/instant";
import type { Moment } from "#core/observe/tape";
import type { FollowUp } from "#core/scenarios/events";
import { momentsOf, type Told } from "#core/scenarios/follow";
import type { BoundPrices } from "#core/scenarios/prices";
import { plannedOf, resultOf, scenarioWatcher, type ScenarioFacts, type ScenarioResult } from "#core/scenarios/run";
import type { ScenarioTerms } from "#core/scenarios/terms";
import { drawsOf } from "#core/statistics/intervals";
import { ToldBars } from "#core/scenarios/toldBars";
import { drawnErrorOf, drawnSummaryOf, isTooNear, summaryOf, type HistorySummary } from "#core/scenarios/summary";

/** One time a rule was triggered. */
export interface Instance {
  /** When it began to look. */
  since: Instant;
  events: readonly FollowUp[];
  bound: BoundPrices;
  result: ScenarioResult;
  /** What it risked at its entry, in price units; none where it was not entered. */
  risk?: number;
}

/** How a rule is run over a market's past. */
export interface HistoryAsk {
  from: Instant;
  to: Instant;
  /** How long each time it may wait for its trigger and its entry (ms); its own expiry holds where this is left out. */
  life?: number;
  /** Of whatever is drawn: the same seed gives the same numbers. */
  seed: number;
  /**
   * Entries at random times that it is compared with, at least: up to ten times as many, until their mean is known to a
   * tenth of the half width of the rule's own interval.
   */
  draws: number;
  /** Told now and then, with the share that is done; `false` stops. */
  onProgress?(share: number): boolean;
}

export interface RuleHistory {
  instances: Instance[];
  summary: HistorySummary;
  /**
   * The same distances of stop and targets, entered at the open of bars drawn at random. Those overlap: their interval
   * says how exactly they were drawn, not what another past would have given.
   */
  chance: HistorySummary;
}

/**
 * A rule over a market's past: looked for anew as soon as it has ended, so that no two instances overlap and every one
 * is followed by the very code that follows it live. `undefined` when it was stopped. O(bars).
 */
export function scenarioHistory(
  terms: ScenarioTerms,
  facts: Omit<ScenarioFacts, "since">,
  told: Told,
  ask: HistoryAsk,
): RuleHistory | undefined {
  let search: Search | undefined;
  const bars = new ToldBars();
  const needs = scenarioWatcher(terms, { ...facts, since: ask.from }).needs;
  // As many as may be told: where finer bars are held, longer ones are not.
  const most = told.layers.reduce((sum, { series }) => sum + series.length, 1);
  const every = Math.max(1, Math.floor(most / WORDS));
  let n = 0;
  for (const moment of momentsOf({ ...told, until: ask.to }, facts.tick, needs)) {
    if (++n % every === 0 && ask.onProgress?.((SEARCHED * Math.min(n, most)) / most) === false) return undefined;
    if (moment.told.from < ask.from) continue;
    bars.push(moment.told, terms.trail ? moment.closes(terms.trail.rung) : []);
    search ??= new Search(terms, facts, ask, moment.told.from, bars);
    search.next(moment);
  }
  const instances = search?.instances() ?? [];
  const summary = summaryOf(instances, ask.seed, facts.tick);
  const [low, high] = summary.expectancyInterval ?? [NaN, NaN];
  const random = chanceOf(terms, facts, search?.shapes ?? [], bars, ask, ((high - low) / 2) * KNOWN_TO);
  return { instances, summary, chance: drawnSummaryOf(random, ask.seed, facts.tick) };
}

/** Share of the half width of the rule's interval to which the mean of random entries is to be known. */
const KNOWN_TO = 0.1;
/** How many times as many are drawn for it at most, and bars that are followed for more than were asked for. */
const MORE = 10;
const MORE_BARS = 2_000_000;
const CHECKED = 50;

/** Share of the work that looking for the rule is; the rest is entries at random times. */
const SEARCHED = 0.6;
/** Words of progress while a past is searched, however many bars it has. */
const WORDS = 100;

/**
 * Distances of an entry's stop and targets in the daily volatility of its time: what an entry at another time is given.
 */
interface Shape {
  risk: number;
  rewards: readonly number[];
}

/** Looks for a rule, instance after instance. */
class Search {
  readonly shapes: Shape[] = [];
  private readonly found: Instance[] = [];
  private events: FollowUp[] = [];
  private risk: number | undefined;
  private since: Instant;
  private terms: ScenarioTerms;
  private watcher: ReturnType<typeof scenarioWatcher>;
  private state: ReturnType<typeof scenarioWatcher>["start"];

  constructor(
    private readonly rule: ScenarioTerms,
    private readonly facts: Omit<ScenarioFacts, "since">,
    private readonly ask: HistoryAsk,
    since: Instant,
    /** What was told so far, the moment's own bar the last. */
    private readonly bars: ToldBars,
  ) {
    [this.since, this.terms, this.watcher, this.state] = this.begun(since);
  }

  private begun(since: Instant): [Instant, ScenarioTerms, ReturnType<typeof scenarioWatcher>, typeof this.state] {
    const { life } = this.ask;
    const terms = life === undefined ? this.rule : { ...this.rule, expires: asInstant(since + life) };
    const watcher = scenarioWatcher(terms, { ...this.facts, since });
    return [since, terms, watcher, watcher.start];
  }

  next(moment: Moment): void {
    const { told } = moment;
    if (told.from < this.since) return;
    const { state, events } = this.watcher.next(this.state, moment);
    this.state = state;
    if (events.length > 0) this.events.push(...events);
    const entered = events.some(({ event }) => event === "entered");
    if (entered) {
      const unit = this.bars.volatilityBefore(this.bars.length - 1);
      const planned = plannedOf(this.terms, this.facts, state, moment);
      this.risk = planned.risk;
      if (!isTooNear(planned, this.facts.tick)) this.shapes.push(shapeOf(planned, state.trade?.fill ?? NaN, unit));
    }
    if (!this.watcher.isDone(state)) return;
    this.keep();
    [this.since, this.terms, this.watcher, this.state] = this.begun(told.to);
  }

  /** What was triggered, with what is still under way. */
  instances(): Instance[] {
    this.keep();
    return this.found;
  }

  private keep(): void {
    const { since, events, state, risk } = this;
    this.events = [];
    this.risk = undefined;
    // Without steps there is no trigger: what was entered counts.
    if (!events.some(({ event }) => event === "triggered" || event === "entered")) return;
    const result = resultOf(this.terms, { ...this.facts, since }, state);
    this.found.push({ since, events, bound: state.bound ?? {}, result, ...(risk === undefined ? {} : { risk }) });
  }
}

function shapeOf({ risk, targets }: { risk: number; targets: readonly number[] }, fill: number, unit: number): Shape {
  return { risk: risk / unit, rewards: targets.map((price) => Math.abs(price - fill) / unit) };
}

/** The longest an entry at a random time is followed, in bars. */
const LONGEST = 50_000;

/**
 * Entries at the open of bars drawn at random, distances drawn from the instances, their stops following structure
 * where the rule's do; unfinished ones are left out. `known` is the standard error their mean is to have.
 */
function chanceOf(
  terms: ScenarioTerms,
  facts: Omit<ScenarioFacts, "since">,
  shapes: readonly Shape[],
  bars: ToldBars,
  { seed, draws, onProgress }: HistoryAsk,
  known: number,
): Instance[] {
  if (shapes.length === 0 || bars.length === 0) return [];
  const draw = drawsOf(seed);
  const sign = terms.direction === "long" ? 1 : -1;
  const out: Instance[] = [];
  let followed = 0;
  const most = known > 0 ? MORE * draws : draws;
  for (let n = 0; n < most; n++) {
    if (n === draws) followed = 0;
    if (n >= draws && n % CHECKED === 0)
      if (followed > MORE_BARS || (drawnErrorOf(out, facts.tick) ?? Infinity) <= known) break;
    const first = draw(bars.length);
    const { risk, rewards } = shapes[draw(shapes.length)];
    const { told } = bars.moment(first);
    const unit = bars.volatilityBefore(first);
    const at = (distance: number) => told.open + sign * distance * unit;
    const random: ScenarioTerms = {
      ...terms,
      while: [],
      if: [],
      unless: [],
      entry: { order: "market", price: told.open },
      stop: at(-risk),
      targets: terms.targets.map(({ share }, i) => ({ price: at(rewards[i]), share })),
      wrong: at(-2 * risk),
      expires: asInstant(told.to),
    };
    const one = follow(random, { ...facts, since: told.from }, bars, first);
    followed += one.followed;
    if (one.instance.result.state === "done") out.push({ ...one.instance, risk: risk * unit });
    if (n % 10 === 0 && onProgress && !onProgress(SEARCHED + ((1 - SEARCHED) * Math.min(n, draws)) / draws)) break;
  }
  return out;
}

function follow(
  terms: ScenarioTerms,
  facts: ScenarioFacts,
  bars: ToldBars,
  first: number,
): { instance: Instance; followed: number } {
  const watcher = scenarioWatcher(terms, facts);
  let state = watcher.start;
  const events: FollowUp[] = [];
  const end = Math.min(bars.length, first + LONGEST);
  let i = first;
  for (; i < end && !watcher.isDone(state); i++) {
    const step = watcher.next(state, bars.moment(i));
    state = step.state;
    events.push(...step.events);
  }
  const instance = { since: facts.since, events, bound: {}, result: resultOf(terms, facts, state) };
  return { instance, followed: i - first };
}
