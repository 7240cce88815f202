import { LRUCache } from "lru-cache";
import { closedBars } from "#core/observe/closedBars";
import { asInstant, type Instant } from "#core/observe/instant";
import { Tape, type Moment, type Need } from "#core/observe/tape";
import { warmFrom } from "#core/observe/warm";
import { FINDING_DEFAULTS } from "#core/finding/params";
import { layersOf } from "../bars/layers.ts";
import { calendarOf } from "../bars/markets.ts";
import type { Market } from "../database/models.ts";

/** A market's tape as this process last told it. */
interface Held {
  history: number;
  tape: Tape;
  from: Instant;
  through: Instant;
}

/** Markets whose rungs are kept ready; those not told for longest go first, and are made anew from their bars. */
const tapes = new LRUCache<string, Held>({ max: 400 });

/**
 * What a market's bars tell from `through` until an instant, with the rungs that are needed. A tape goes on where it
 * stood; one that stands further (what it told was not stored), has not what is needed, or has seen bars that were
 * changed is begun anew, far enough back for its rungs to stand as they did.
 */
export async function* momentsOf(
  market: Market,
  needs: readonly Need[],
  through: Instant,
  until: Instant,
): AsyncGenerator<Moment> {
  const calendar = calendarOf(market);
  const layers = await layersOf(market);
  const from = warmFrom(needs, through, calendar);
  let held = tapes.get(market.id);
  const goesOn =
    held && held.history === market.history && held.through <= through && held.from <= from && held.tape.has(needs);
  if (!held || !goesOn) {
    const tape = new Tape({ calendar, tick: market.tick, k: FINDING_DEFAULTS.k }, needs);
    held = { history: market.history, tape, from, through: from };
    tapes.set(market.id, held);
  }
  for (const told of closedBars(layers, calendar, held.through, until)) {
    const moment = held.tape.next(told);
    held.through = asInstant(told.to);
    if (told.from >= through) yield moment;
  }
}
