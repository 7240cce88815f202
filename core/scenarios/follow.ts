import { ConditionFault } from "#core/conditions/fields";
import { closedBars } from "#core/observe/closedBars";
import { NEVER, type Instant } from "#core/observe/instant";
import { Tape, type Moment, type Need, type OtherMoment } from "#core/observe/tape";
import { watch } from "#core/observe/watcher";
import type { FollowUp } from "#core/scenarios/events";
import { wholeBound, wholeResult, wholeWatcher, type WholeTerms } from "#core/scenarios/legs";
import type { BoundPrices } from "#core/scenarios/prices";
import type { ScenarioFacts, ScenarioResult } from "#core/scenarios/run";
import type { Layer } from "#core/series/layers";
import type { Calendar } from "#core/time/calendar";

/** What a market's bars tell: its stored resolutions, by its calendar. */
export interface Told {
  layers: readonly Layer[];
  calendar: Calendar;
  /** Bars on each side of a swing. */
  k: number;
  until?: Instant;
  /** Other markets, by the names conditions call them. */
  also?: Readonly<Record<string, Told & { tick: number }>>;
}

/** What becomes of a scenario over all of a market's bars, with the prices that were bound. O(bars). */
export function followTerms(terms: WholeTerms, facts: ScenarioFacts, told: Told): Followed {
  const watcher = wholeWatcher(terms, facts);
  const { state, events } = watch(watcher, watcher.start, momentsOf(told, facts.tick, watcher.needs));
  return { events, bound: wholeBound(state), result: wholeResult(terms, facts, state) };
}

export interface Followed {
  events: FollowUp[];
  bound: BoundPrices;
  result: ScenarioResult;
}

/** Everything that is told of a market, with what others told by then where somebody needs them. */
export function* momentsOf(told: Told, tick: number, needs: readonly Need[]): Generator<Moment> {
  const { layers, calendar, k, until = NEVER, also = {} } = told;
  const tape = new Tape({ calendar, tick, k }, needs);
  const missing = needs.find(({ market }) => market !== undefined && !(market in also))?.market;
  if (missing !== undefined) throw new ConditionFault(`There are no bars of "${missing}", which a condition is on.`);
  const others = Object.entries(also)
    .filter(([name]) => needs.some(({ market }) => market === name))
    .map(([name, other]) => new Beside(name, other, needs));
  for (const bar of closedBars(layers, calendar, undefined, until)) {
    if (others.length === 0) {
      yield tape.next(bar);
      continue;
    }
    const said = new Map(others.map((other) => [other.name, other.until(bar.to)]));
    yield tape.next(bar, (market) => said.get(market) ?? []);
  }
}

/** Another market, told as far as it is known at an instant. */
class Beside {
  private readonly moments: Iterator<Moment>;
  private next: Moment | undefined;

  constructor(
    readonly name: string,
    private readonly told: Told & { tick: number },
    needs: readonly Need[],
  ) {
    const own = needs.flatMap(({ market, ...need }) => (market === name ? [need] : []));
    this.moments = momentsOf(told, told.tick, own);
    this.take();
  }

  until(instant: Instant): OtherMoment[] {
    const out: OtherMoment[] = [];
    for (; this.next && this.next.told.to <= instant; this.take())
      out.push({ moment: this.next, tick: this.told.tick });
    return out;
  }

  private take(): void {
    const { value, done } = this.moments.next();
    this.next = done ? undefined : (value as Moment);
  }
}
