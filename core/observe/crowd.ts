import { Heap } from "#core/levels/heap";
import type { Moment } from "#core/observe/tape";
import type { Watcher } from "#core/observe/watcher";

/** One of a crowd: its watcher, and what it has made of the bars so far. */
export interface Member<State = unknown, Event = unknown> {
  watcher: Watcher<State, Event>;
  state: State;
  /** Bars that opened before are not for it. */
  from: number;
}

/** A member with the version of what is known of when it must be shown something. */
interface Held<M> {
  member: M;
  version: number;
  rungs: readonly string[];
}

/**
 * Many watchers of one market. Each is shown the bars that may change it and no others: they are found by the price,
 * the instant or the rung that can. O(log n) for each that is shown a bar, and nothing for the rest.
 */
export class Crowd<M extends Member> {
  /** Those of whom nothing is known beforehand: every bar is shown to them. */
  private readonly restless = new Set<Held<M>>();
  private readonly byRung = new Map<string, Set<Held<M>>>();
  /** By the price below, above, and the instant from which they must be shown a bar; old versions are void. */
  private readonly below = new Heap<[Held<M>, number]>();
  private readonly above = new Heap<[Held<M>, number]>();
  private readonly later = new Heap<[Held<M>, number]>();

  constructor(members: readonly M[]) {
    for (const member of members) this.settle({ member, version: 0, rungs: [] });
  }

  /** Shows everybody a moment whom it may concern; tells who said something, or has changed. */
  next(moment: Moment, changed: (member: M, events: readonly unknown[]) => void): void {
    const { told } = moment;
    const concerned = new Set(this.restless);
    take(this.below, (key) => -key >= told.low, concerned);
    take(this.above, (key) => key <= told.high, concerned);
    take(this.later, (key) => key <= told.from, concerned);
    for (const [rung, held] of this.byRung)
      if (moment.closes(rung).length > 0) for (const one of held) concerned.add(one);
    for (const held of concerned) this.show(held, moment, changed);
  }

  private show(held: Held<M>, moment: Moment, changed: (member: M, events: readonly unknown[]) => void): void {
    const { member } = held;
    if (moment.told.from < member.from) return this.settle(held);
    const { state, events } = member.watcher.next(member.state, moment);
    member.state = state;
    changed(member, events);
    this.settle(held);
  }

  /** Puts a member where the next bar that concerns it is looked for; one that is over is nowhere. */
  private settle(held: Held<M>): void {
    const { member } = held;
    held.version++;
    this.restless.delete(held);
    const quiet = member.watcher.isDone(member.state) ? undefined : member.watcher.quiet?.(member.state);
    const rungs = quiet?.rungs ?? [];
    if (rungs !== held.rungs) {
      for (const rung of held.rungs) this.byRung.get(rung)?.delete(held);
      for (const rung of rungs) this.listeners(rung).add(held);
      held.rungs = rungs;
    }
    if (member.watcher.isDone(member.state)) return;
    if (!quiet) return void this.restless.add(held);
    const entry: [Held<M>, number] = [held, held.version];
    if (quiet.over > -Infinity) this.below.push(-quiet.over, entry);
    if (quiet.under < Infinity) this.above.push(quiet.under, entry);
    if (quiet.before < Infinity) this.later.push(quiet.before, entry);
  }

  private listeners(rung: string): Set<Held<M>> {
    const known = this.byRung.get(rung);
    if (known) return known;
    const made = new Set<Held<M>>();
    this.byRung.set(rung, made);
    return made;
  }
}

function take<H extends { version: number }>(
  heap: Heap<[H, number]>,
  isDue: (key: number) => boolean,
  into: Set<H>,
): void {
  while (heap.size > 0 && isDue(heap.least)) {
    const entry = heap.pop();
    if (entry && entry[0].version === entry[1]) into.add(entry[0]);
  }
}
