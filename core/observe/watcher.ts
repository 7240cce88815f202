import type { Instant } from "#core/observe/instant";
import type { Moment, Need } from "#core/observe/tape";

/**
 * Somebody who watches a market: plain data, and what one more told bar makes of it. The same bars make the same of it,
 * told at once, one by one, or by another process that goes on where the last one stood.
 */
export interface Watcher<State, Event> {
  /** What it must know of rungs. */
  needs: readonly Need[];
  /** Bars that opened before this never count. */
  since: Instant;
  start: State;
  next(state: State, moment: Moment): Step<State, Event>;
  /** Whether nothing can come any more. */
  isDone(state: State): boolean;
  /** Which bars need not be shown, because they would leave a state as it is; none where that is not known. */
  quiet?(state: State): Quiet | undefined;
}

/** Bars that change nothing: wholly between two prices, opened before an instant, and closing none of some rungs. */
export interface Quiet {
  rungs: readonly string[];
  over: number;
  under: number;
  before: Instant;
}

export interface Step<State, Event> {
  state: State;
  events: readonly Event[];
}

/** Shows a watcher moments in order; those it has no eyes for leave its state the very object it was. */
export function watch<State, Event>(
  watcher: Watcher<State, Event>,
  state: State,
  moments: Iterable<Moment>,
): { state: State; events: Event[] } {
  const events: Event[] = [];
  for (const moment of moments) {
    if (moment.told.from < watcher.since || watcher.isDone(state)) continue;
    const step = watcher.next(state, moment);
    state = step.state;
    if (step.events.length > 0) events.push(...step.events);
  }
  return { state, events };
}
