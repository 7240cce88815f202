import { LRUCache } from "lru-cache";
import { closedBars } from "#core/observe/closedBars";
import { asInstant, type Instant } from "#core/observe/instant";
import { Tape, type Moment, type Need, type OtherMoment } from "#core/observe/tape";
import { warmFrom } from "#core/observe/warm";
import { FINDING_DEFAULTS } from "#core/finding/params";
import type { Layer } from "#core/series/layers";
import type { Calendar } from "#core/time/calendar";
import { layersOf } from "../bars/layers.ts";
import { needsAt } from "../record/told/replay.ts";
import { calendarOf } from "../bars/markets.ts";
import { Market } from "../database/models.ts";

/** A market's tape as this process last told it, with those of the markets that are told beside it. */
interface Held {
  history: number;
  tape: Tape;
  from: Instant;
  through: Instant;
  beside: Map<string, Beside>;
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
  const from = warmFrom(
    needs.filter((need) => need.market === undefined),
    through,
    calendar,
  );
  let held = tapes.get(market.id);
  const beside = await marketsBeside(needs);
  const goesOn =
    held &&
    held.history === market.history &&
    held.through <= through &&
    held.from <= from &&
    held.tape.has(needs) &&
    beside.every((other) => held?.beside.get(other.id)?.goesOn(other, needs) ?? false);
  if (!held || !goesOn) {
    const tape = new Tape({ calendar, tick: market.tick, k: FINDING_DEFAULTS.k }, needs);
    const others = beside.map((other): [string, Beside] => [other.id, new Beside(other, needs, from)]);
    held = { history: market.history, tape, from, through: from, beside: new Map(others) };
    tapes.set(market.id, held);
  }
  const others = [...held.beside.values()];
  for (const other of others) await other.open();
  for (const told of closedBars(layers, calendar, held.through, until)) {
    const said = new Map(others.map((other) => [other.id, other.until(told.to)]));
    const moment = held.tape.next(told, (name) => said.get(name) ?? []);
    held.through = asInstant(told.to);
    if (told.from >= through) yield moment;
  }
}

/** Other markets that are needed; one that has been removed tells nothing. */
function marketsBeside(needs: readonly Need[]): Promise<Market[]> {
  const names = [...new Set(needs.flatMap(({ market }) => market ?? []))];
  return names.length === 0 ? Promise.resolve([]) : Market.findAll({ where: { id: names } });
}

/**
 * Another market beside the one that is told: with every bar of that one goes what this one's stored bars have told by
 * its close, and not before.
 */
class Beside {
  readonly id: string;
  private readonly calendar: Calendar;
  private readonly history: number;
  private readonly tape: Tape;
  private through: Instant;
  private layers: Layer[] = [];

  constructor(
    private market: Market,
    needs: readonly Need[],
    from: Instant,
  ) {
    const own = needsAt(market.id, needs);
    this.id = market.id;
    this.calendar = calendarOf(market);
    this.history = market.history;
    this.tape = new Tape({ calendar: this.calendar, tick: market.tick, k: FINDING_DEFAULTS.k }, own);
    this.through = warmFrom(own, from, this.calendar);
  }

  goesOn(market: Market, needs: readonly Need[]): boolean {
    this.market = market;
    return this.history === market.history && this.tape.has(needsAt(market.id, needs));
  }

  /** Reads the bars that have come. */
  async open(): Promise<void> {
    this.layers = await layersOf(this.market);
  }

  until(instant: Instant): OtherMoment[] {
    const out: OtherMoment[] = [];
    for (const told of closedBars(this.layers, this.calendar, this.through, instant)) {
      out.push({ moment: this.tape.next(told), tick: this.market.tick });
      this.through = asInstant(told.to);
    }
    return out;
  }
}
