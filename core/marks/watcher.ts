import { followedFrom } from "#core/marks/follow";
import type { Mark, MarkContext } from "#core/marks/kind";
import type { MarkEvent } from "#core/marks/markEvent";
import { followedOn, kindOf } from "#core/marks/registry";
import { asInstant, type Instant } from "#core/observe/instant";
import type { Watcher } from "#core/observe/watcher";

/** What happened to a mark, with the bar it happened on and the instant it was known. */
export type LifeEvent = MarkEvent & { at: Instant; knownAt: Instant };

/**
 * The life of a mark as a watcher of the stream: what `followMark` makes of the bars of a rung, told close by close.
 * `context` holds the bars of the rung it is followed on, up to its birth at least.
 */
export function lifeWatcher(mark: Mark, context: MarkContext): Watcher<unknown, LifeEvent> {
  const kind = kindOf(mark);
  const rung = followedOn(mark);
  const since = asInstant(followedFrom(mark, context));
  return {
    needs: [{ rung, of: "closes" }],
    since,
    start: kind.start(mark, context),
    next(state, moment) {
      const events: LifeEvent[] = [];
      for (const { bar } of moment.closes(rung)) {
        if (bar.from < since) continue;
        const { from: at } = bar;
        state = kind.advance(mark, state, bar, (event) => events.push({ ...event, at, knownAt: moment.told.to }));
      }
      return { state, events };
    },
    // A broken level may flip, a dead count's inside may still reach its targets.
    isDone: () => false,
  };
}
