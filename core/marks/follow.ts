import type { Life, Mark, MarkContext } from "#core/marks/kind";
import type { MarkEvent } from "#core/marks/markEvent";
import { pivotBar } from "#core/marks/pivotBar";
import { bornAt, followedOn, kindOf } from "#core/marks/registry";
import { statusOf } from "#core/marks/status";
import { closeOfBar } from "#core/series/resample";
import { barAt, firstAtOrAfter } from "#core/series/series";
import { parseTimeframe } from "#core/time/timeframe";

/**
 * How far a mark has been followed: its state before the bar at `time`, which may be unfinished, and all that happened.
 */
export interface Followed {
  time: number;
  state: unknown;
  events: readonly MarkEvent[];
}

/**
 * The life of a mark over the bars of the rung it is followed on: every bar from its birth on is shown to it once, in
 * order.
 * The bar it was born on counts for kinds whose first state waits for a close (a zone leaving its base).
 */
export function followMark(mark: Mark, context: MarkContext): Life {
  return followOn(mark, context).life;
}

/**
 * The same, gone on with from how far it had been followed over the same bars; `followed` is how far it is now. The
 * last bar
 * is shown anew each time, for it may not have been finished. O(new bars).
 */
export function followOn(
  mark: Mark,
  context: MarkContext,
  before?: Followed,
): { life: Life; followed: Followed | undefined } {
  const kind = kindOf(mark);
  const { series } = context;
  const events: MarkEvent[] = before ? [...before.events] : [];
  let state = before ? before.state : kind.start(mark, context);
  const emit = (event: MarkEvent) => events.push(event);
  const first = before ? firstAtOrAfter(series, before.time) : firstBar(mark, context);
  let followed = before;
  for (let i = first; i < series.length; i++) {
    if (i === series.length - 1) followed = { time: series.time[i], state, events: [...events] };
    state = kind.advance(mark, state, barAt(series, i), emit);
  }
  return { life: { ...statusOf(kind.status(state)), state, events }, followed };
}

/**
 * The first bar that acts on it. Over bars finer than its own it is the one after the bar that made its last anchor.
 */
function firstBar(mark: Mark, context: MarkContext): number {
  const made = bornOn(mark, context);
  return made === undefined ? firstAtOrAfter(context.series, bornAt(mark) + 1) : made + 1;
}

/** The finer bar that made its last anchor, where it is followed over finer ones than its own. */
function bornOn(mark: Mark, { series, calendar }: MarkContext): number | undefined {
  const born = bornAt(mark);
  const [own, finer] = [parseTimeframe(mark.rung), parseTimeframe(followedOn(mark))];
  const last = mark.anchors.find(({ time }) => time === born);
  if (followedOn(mark) === mark.rung || !own || !finer || !last) return undefined;
  return pivotBar(series, last, own, finer, calendar);
}

/** The instant from which bars act on it: those of the rung it is followed on that open then or later. */
export function followedFrom(mark: Mark, context: MarkContext): number {
  const { series, calendar } = context;
  const made = bornOn(mark, context);
  const timeframe = parseTimeframe(followedOn(mark));
  const time = made === undefined || made < 0 ? bornAt(mark) : series.time[made];
  return timeframe ? closeOfBar(time, timeframe, calendar) : time;
}
