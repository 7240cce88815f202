import type { StepTerms } from "#core/conditions/steps";
import type { Watcher } from "#core/observe/watcher";
import type { Instant } from "#core/observe/instant";
import type { Need } from "#core/observe/tape";
import type { FollowUp, FollowUpName } from "#core/scenarios/events";
import type { BoundPrices } from "#core/scenarios/prices";
import {
  resultOf,
  scenarioWatcher,
  type ScenarioFacts,
  type ScenarioResult,
  type ScenarioState,
} from "#core/scenarios/run";
import { needsOfTerms, type ScenarioTerms } from "#core/scenarios/terms";

/** What a leg may wait for of another one. */
export const LEG_EVENTS = ["entered", "target", "stopped"] as const;

/** A part of a scenario with an entry of its own: a probe, an addition, one of several levels, a re-entry. */
export interface Leg extends Pick<ScenarioTerms, "entry" | "stop" | "targets" | "breakEven"> {
  /** Steps after those all legs share. */
  if: readonly StepTerms[];
  /** Share of the risk; those of all legs sum to 1. */
  risk: number;
  /** It begins to look when this has happened to another leg (from 1), on the bars that open from then on. */
  after?: { leg: number; event: (typeof LEG_EVENTS)[number] };
}

/** A scenario of several legs: what they share stands once. */
export interface SeveralTerms extends Omit<ScenarioTerms, keyof Pick<Leg, "entry" | "stop" | "targets" | "breakEven">> {
  legs: readonly Leg[];
}

export type WholeTerms = ScenarioTerms | SeveralTerms;

export const isSeveral = (terms: WholeTerms): terms is SeveralTerms => "legs" in terms;

/** One leg as a scenario of its own. */
export function legTerms({ legs: _, if: shared, ...common }: SeveralTerms, leg: Leg): ScenarioTerms {
  const { if: own, entry, stop, targets, breakEven } = leg;
  return { ...common, if: [...shared, ...own], entry, stop, targets, breakEven };
}

/** Where each leg stands: since when it looks, and its state; neither before it begins, `over` if it never will. */
export interface SeveralState {
  legs: readonly LegState[];
}
type LegState = { since: Instant; state: ScenarioState } | { waits: true } | { over: true };

/** Every leg is followed on its own; a leg that waits for another begins with the bar after that one's event. */
export function severalWatcher(terms: SeveralTerms, facts: ScenarioFacts): Watcher<SeveralState, FollowUp> {
  const own = terms.legs.map((leg) => legTerms(terms, leg));
  const watcherOf = (i: number, since: Instant) => scenarioWatcher(own[i], { ...facts, since });
  const begin = (i: number, since: Instant): LegState => ({ since, state: watcherOf(i, since).start });
  const isOver = (i: number, leg: LegState) =>
    "over" in leg || ("state" in leg && watcherOf(i, leg.since).isDone(leg.state));
  return {
    needs: own.flatMap(needsOfTerms),
    since: facts.since,
    start: { legs: terms.legs.map(({ after }, i) => (after ? { waits: true } : begin(i, facts.since))) },
    isDone: ({ legs }) => legs.every((leg, i) => isOver(i, leg)),
    next({ legs: before }, moment) {
      const { from, to, close } = moment.told;
      const events: FollowUp[] = [];
      const legs = before.map((leg, i): LegState => {
        if (!("state" in leg) || from < leg.since || isOver(i, leg)) return leg;
        const step = watcherOf(i, leg.since).next(leg.state, moment);
        events.push(...step.events.map((event) => ({ ...event, leg: i + 1 })));
        return step.state === leg.state ? leg : { since: leg.since, state: step.state };
      });
      // What waits for a leg that is over without that event will never begin, and nor will what waits for it.
      for (let changed = true; changed;) {
        changed = false;
        terms.legs.forEach(({ after }, i) => {
          if (!after || !("waits" in legs[i])) return;
          const happened = events.some(({ leg, event }) => leg === after.leg && event === after.event);
          if (!happened && !isOver(after.leg - 1, legs[after.leg - 1])) return;
          if (!happened) events.push({ ...CANCELLED, at: from, knownAt: to, price: close, leg: i + 1 });
          legs[i] = happened ? begin(i, to) : { over: true };
          changed = true;
        });
      }
      return { state: { legs }, events };
    },
  };
}

const CANCELLED = { event: "cancelled" as FollowUpName, reason: "leg" as const };

const PHASES = ["open", "armed", "waiting", "done"] as const;

/** All legs together, each by its share of the risk. */
export function severalResult(terms: SeveralTerms, facts: ScenarioFacts, { legs }: SeveralState): ScenarioResult {
  const results = legs.map((leg, i): ScenarioResult =>
    "state" in leg ? resultOf(legTerms(terms, terms.legs[i]), facts, leg.state) : NOTHING[isWaiting(leg)],
  );
  const blend = (of: (result: ScenarioResult) => number) =>
    results.reduce((sum, result, i) => sum + terms.legs[i].risk * of(result), 0);
  const ambiguous = results.some((result) => result.ambiguous);
  return {
    r: blend(({ r }) => r),
    ...(ambiguous ? { rBest: blend(({ r, rBest = r }) => rBest) } : {}),
    best: blend(({ best }) => best),
    worst: blend(({ worst }) => worst),
    ambiguous,
    state: PHASES.find((phase) => results.some(({ state }) => state === phase)) ?? "done",
  };
}

const isWaiting = (leg: LegState) => ("waits" in leg ? "waiting" : "done");
const EMPTY = { r: 0, best: 0, worst: 0, ambiguous: false };
const NOTHING = { waiting: { ...EMPTY, state: "waiting" }, done: { ...EMPTY, state: "done" } } as const;

/** What must be known of rungs to follow it. */
export function wholeNeeds(terms: WholeTerms): Need[] {
  const legs = isSeveral(terms) ? terms.legs.map((leg) => legTerms(terms, leg)) : [terms];
  return legs.flatMap(needsOfTerms);
}

/** A scenario of one leg or of several, as one watcher. */
export type WholeState = ScenarioState | SeveralState;

export function wholeWatcher(terms: WholeTerms, facts: ScenarioFacts): Watcher<WholeState, FollowUp> {
  return (isSeveral(terms) ? severalWatcher(terms, facts) : scenarioWatcher(terms, facts)) as Watcher<
    WholeState,
    FollowUp
  >;
}

export function wholeResult(terms: WholeTerms, facts: ScenarioFacts, state: WholeState): ScenarioResult {
  return isSeveral(terms)
    ? severalResult(terms, facts, state as SeveralState)
    : resultOf(terms, facts, state as ScenarioState);
}

/** Prices that were bound, by their field; a leg's by "legs[0].stop". */
export function wholeBound(state: WholeState): BoundPrices {
  if (!("legs" in state)) return state.bound ?? {};
  return Object.fromEntries(
    state.legs.flatMap((leg, i) =>
      "state" in leg
        ? Object.entries(leg.state.bound ?? {}).map(([field, price]) => [`legs[${i}].${field}`, price])
        : [],
    ),
  );
}
