import { isDeepStrictEqual } from "node:util";
import { Crowd, type Member } from "#core/observe/crowd";
import { asInstant } from "#core/observe/instant";
import { Tape, type Moment, type Need, type OtherMoment } from "#core/observe/tape";
import type { FollowUp } from "#core/scenarios/events";
import { wholeWatcher, type WholeState, type WholeTerms } from "#core/scenarios/legs";
import { Calendar } from "#core/time/calendar";
import type { ToldFacts, ToldMarket, ToldPage } from "./page.ts";
import type { ToldRow } from "./rows.ts";

/** A published call as it is followed: what it says is frozen. */
export interface Call {
  /** "edition/scenario". */
  subject: string;
  terms: WholeTerms;
  /** Bars that opened before it was published do not count. */
  since: number;
}

/** What a call has come to. */
export interface Came {
  state: WholeState;
  /** How much it had said before the first event below, where it was followed before pages were kept. */
  before: number;
  events: FollowUp[];
  /** Closing of the bar that ended it; none while it is not over. */
  ended: number | null;
}

interface Follower extends Member<WholeState, FollowUp>, Came {
  call: Call;
}

/**
 * Calls on one market, worked out bar by bar from pages of what was told and from nothing else. The same pages make the
 * same of the same calls, in one go or page by page.
 */
export class Replay {
  /** The last page that was taken, and its rows so far: it may grow. */
  last: { page: ToldPage; rows: readonly ToldRow[] } | undefined;
  facts: ToldFacts | undefined;
  /** Closing of the last own bar; none before any. */
  through: number | null = null;
  /** The same of each market beside. */
  readonly besides: number[] = [];
  private readonly followers: Follower[];
  private tape: Tape | undefined;
  private beside: { market: string; tape: Tape; tick: number; said: OtherMoment[] }[] = [];
  private crowd: Crowd<Follower> | undefined;

  constructor(calls: readonly Call[]) {
    this.followers = calls.map((call) => {
      const { start } = wholeWatcher(call.terms, { since: asInstant(call.since), tick: NaN, zone: "UTC" });
      return { call, watcher: NOBODY, state: start, from: call.since, before: 0, events: [], ended: null };
    });
  }

  /** Whether a page is the last one that was taken, or that one grown. */
  goesOnWith(page: ToldPage, rows: readonly ToldRow[]): boolean {
    const { last } = this;
    return page.number === last?.page.number && isDeepStrictEqual(rows.slice(0, last.rows.length), last.rows);
  }

  /** What became of a call so far; `undefined` of one that is not followed here. */
  came(subject: string): Came | undefined {
    return this.followers.find(({ call }) => call.subject === subject);
  }

  get all(): readonly (Came & { call: Call })[] {
    return this.followers;
  }

  /** Whether every one of some calls is followed here. */
  has(calls: readonly Call[]): boolean {
    return calls.every(({ subject }) => this.came(subject) !== undefined);
  }

  /** Whether all that somebody needs to know of rungs is read from the bars of the generation that is on. */
  reads(needs: readonly Need[]): boolean {
    const { tape, beside } = this;
    if (!tape) return false;
    const names = new Set(needs.flatMap(({ market }) => market ?? []));
    const isBeside = (name: string) =>
      beside.find((other) => other.market === name)?.tape.has(needsAt(name, needs)) ?? false;
    return tape.has(needs) && [...names].every(isBeside);
  }

  /** Takes a page, or what has been added to the last one. */
  take(page: ToldPage, rows: readonly ToldRow[]): void {
    const known = page.number === this.last?.page.number ? this.last.rows.length : 0;
    if (known === 0 && page.facts) this.begin(page.facts);
    for (const row of rows.slice(known)) this.next(row, page.warm);
    this.last = { page, rows };
    this.through = page.through;
  }

  private begin(facts: ToldFacts): void {
    this.facts = facts;
    const { zone } = facts.calendar;
    for (const follower of this.followers) {
      const { call } = follower;
      const at = { since: asInstant(call.since), tick: facts.tick, zone };
      follower.watcher = wholeWatcher(call.terms, at);
      const adopted = facts.adopted?.[call.subject];
      if (adopted && follower.events.length === 0) {
        follower.state = adopted.state as WholeState;
        follower.before = adopted.events;
      }
    }
    const needs = this.followers.flatMap(({ watcher }) => watcher.needs);
    this.tape = new Tape(tapeFacts(facts, facts.k), needs);
    this.beside = facts.also.map((other) => ({
      market: other.market,
      tick: other.tick,
      tape: new Tape(tapeFacts(other, facts.k), needsAt(other.market, needs)),
      said: [],
    }));
    this.besides.length = 0;
    this.crowd = new Crowd(this.followers);
  }

  private next({ who, bar }: ToldRow, warm: boolean): void {
    if (who > 0) {
      const other = this.beside[who - 1];
      if (!other) throw new RangeError("A told bar is of a market that is told nowhere.");
      other.said.push({ moment: other.tape.next(bar), tick: other.tick });
      this.besides[who - 1] = bar.to;
      return;
    }
    if (!this.tape) throw new RangeError("Told bars begin without what they are read by.");
    const said = new Map(this.beside.map((other) => [other.market, other.said.splice(0)]));
    const moment: Moment = this.tape.next(bar, (market) => said.get(market) ?? []);
    if (warm) return;
    this.crowd?.next(moment, (follower, events) => {
      follower.events.push(...(events as readonly FollowUp[]));
      if (follower.watcher.isDone(follower.state)) follower.ended = bar.to;
    });
  }
}

const NOBODY: Member<WholeState, FollowUp>["watcher"] = {
  needs: [],
  since: asInstant(0),
  start: undefined as never,
  next: (state) => ({ state, events: [] }),
  isDone: () => true,
};

const tapeFacts = ({ calendar, tick }: ToldMarket, k: number) => ({ calendar: new Calendar(calendar), tick, k });

/** Needs of another market as its own. */
export function needsAt(market: string, needs: readonly Need[]): Need[] {
  return needs.flatMap(({ market: of, ...need }) => (of === market ? [need] : []));
}
