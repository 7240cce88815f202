import type { Life, Mark, MarkContext, MarkEvent } from "#core/marks/kind";
import { bornAt, kindOf } from "#core/marks/registry";
import { barAt, firstAtOrAfter } from "#core/series/series";

/**
 * The life of a mark over the bars of its rung: every bar from its birth on is shown to it once, in order.
 * The bar it was born on counts for kinds whose first state waits for a close (a zone leaving its base).
 */
export function followMark(mark: Mark, context: MarkContext): Life {
  const kind = kindOf(mark);
  const { series } = context;
  const events: MarkEvent[] = [];
  let state = kind.start(mark, context);
  const emit = (event: MarkEvent) => events.push(event);
  for (let i = firstAtOrAfter(series, bornAt(mark) + 1); i < series.length; i++)
    state = kind.advance(mark, state, barAt(series, i), emit);
  return { ...kind.status(state), state, events };
}
