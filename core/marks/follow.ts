import type { Life, Mark, MarkContext, MarkEvent } from "#core/marks/kind";
import { pivotBar } from "#core/marks/pivotBar";
import { bornAt, followedOn, kindOf } from "#core/marks/registry";
import { statusOf } from "#core/marks/status";
import { barAt, firstAtOrAfter } from "#core/series/series";
import { parseTimeframe } from "#core/time/timeframe";

/**
 * The life of a mark over the bars of the rung it is followed on: every bar from its birth on is shown to it once, in
 * order.
 * The bar it was born on counts for kinds whose first state waits for a close (a zone leaving its base).
 */
export function followMark(mark: Mark, context: MarkContext): Life {
  const kind = kindOf(mark);
  const { series } = context;
  const events: MarkEvent[] = [];
  let state = kind.start(mark, context);
  const emit = (event: MarkEvent) => events.push(event);
  for (let i = firstBar(mark, context); i < series.length; i++)
    state = kind.advance(mark, state, barAt(series, i), emit);
  return { ...statusOf(kind.status(state)), state, events };
}

/**
 * The first bar that acts on it. Over bars finer than its own it is the one after the bar that made its last anchor.
 */
function firstBar(mark: Mark, { series, calendar }: MarkContext): number {
  const born = bornAt(mark);
  const [own, finer] = [parseTimeframe(mark.rung), parseTimeframe(followedOn(mark))];
  const last = mark.anchors.find(({ time }) => time === born);
  if (followedOn(mark) === mark.rung || !own || !finer || !last) return firstAtOrAfter(series, born + 1);
  return pivotBar(series, last, own, finer, calendar) + 1;
}
