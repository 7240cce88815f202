/**
 * The ways through a bar. A bar says where price opened, how far it went and where it closed; the way between is
 * unknown.
 * Every continuous way from open to close that touches high and low and stays between them is possible. What may happen
 * on such a way depends on prices alone: so the prices that matter, with the bar's own four, are the places of a small
 * graph, a way is a walk on it, and all that can come of a bar is found by walking to every place in every state.
 */

/** Open, high, low and close of a bar. */
export interface Extent {
  open: number;
  high: number;
  low: number;
  close: number;
}

/** A price at which something happens when it is reached from below (`way` 1) or from above (-1); `strict`: passed. */
export interface Meeting<State> {
  price: number;
  way: 1 | -1;
  strict?: true;
  become: State;
}

/** Something that lives through bars. States must not come round again: each meeting leads further on. */
export interface Passage<State> {
  /** Every price at which any state that may come of this one meets something, and which of them must be passed. */
  points(state: State): readonly Pick<Meeting<State>, "price" | "way" | "strict">[];
  /** What a state may meet; of two that are met at one place the first counts. */
  meetings(state: State): readonly Meeting<State>[];
  /** What tells two states that came of one another from each other. */
  key(state: State): string;
  /** Nothing more can happen to it. */
  isEnded(state: State): boolean;
  /** Prices are equal within this. */
  tolerance: number;
}

/** A price, or the nearest there is above it (`side` 1) or below it (-1). */
interface Place {
  price: number;
  side: -1 | 0 | 1;
}

/** A walk that has come to a place in a state, and which of the bar's ends it has touched. */
interface Walk<State> {
  at: number;
  state: State;
  high: boolean;
  low: boolean;
}

/** All states that a bar may leave, by their keys. O(places x states), and at once where the bar reaches no meeting. */
export function waysThrough<State>(passage: Passage<State>, state: State, bar: Extent): Map<string, State> {
  if (!meetsAny(passage, state, bar)) return new Map([[passage.key(state), state]]);
  return ends(passage, state, bar, placesOf(passage, state, bar), () => true);
}

/**
 * The furthest prices that every way to a certain end passes while it `counts`, of what was before a place and what is
 * after it: the lowest of their highs, and the highest of their lows.
 */
export function furthestOn<State>(
  passage: Passage<State>,
  state: State,
  bar: Extent,
  end: string,
  counts: (before: State, after: State) => boolean,
): { high: number; low: number } {
  if (!meetsAny(passage, state, bar)) return { high: bar.high, low: bar.low };
  const places = placesOf(passage, state, bar);
  const reaches = (allowed: (at: number) => boolean) =>
    ends(passage, state, bar, places, (at, before, after) => !counts(before, after) || allowed(at)).has(end);
  let high = 0;
  while (high < places.length - 1 && !reaches((at) => at <= high)) high++;
  let low = places.length - 1;
  while (low > 0 && !reaches((at) => at >= low)) low--;
  return { high: places[high].price, low: places[low].price };
}

function meetsAny<State>(passage: Passage<State>, state: State, { high, low }: Extent): boolean {
  const { tolerance } = passage;
  return passage.meetings(state).some((meeting) => {
    const place = placeOf(meeting);
    const end: Place = { price: meeting.way > 0 ? high : low, side: 0 };
    return meeting.way * compare(end, place, tolerance) >= 0;
  });
}

/** Walks to every place in every state, and gathers the states in which the close can be reached. */
function ends<State>(
  passage: Passage<State>,
  start: State,
  bar: Extent,
  places: readonly Place[],
  isAllowed: (at: number, before: State, after: State) => boolean,
): Map<string, State> {
  const { tolerance } = passage;
  const indexOf = (price: number) => places.findIndex((place) => compare(place, { price, side: 0 }, tolerance) === 0);
  const [close, top, bottom] = [indexOf(bar.close), indexOf(bar.high), indexOf(bar.low)];
  const found = new Map<string, State>();
  const seen = new Set<string>();
  const waiting: Walk<State>[] = [];
  const arrive = (at: number, from: State, touched: Pick<Walk<State>, "high" | "low">) => {
    const state = met(passage, from, places[at]);
    if (!isAllowed(at, from, state)) return;
    const [high, low] = [touched.high || at === top, touched.low || at === bottom];
    const key = passage.key(state);
    const once = `${at} ${high} ${low} ${key}`;
    if (seen.has(once)) return;
    seen.add(once);
    if (passage.isEnded(state) || (at === close && high && low)) found.set(key, state);
    if (!passage.isEnded(state)) waiting.push({ at, state, high, low });
  };
  arrive(indexOf(bar.open), start, { high: false, low: false });
  for (let walk = waiting.pop(); walk; walk = waiting.pop())
    for (const at of [walk.at - 1, walk.at + 1]) if (at >= 0 && at < places.length) arrive(at, walk.state, walk);
  return found;
}

/** What a state becomes by standing at a place. */
function met<State>(passage: Passage<State>, state: State, place: Place): State {
  for (;;) {
    const meeting = passage
      .meetings(state)
      .find((one) => one.way * compare(place, placeOf(one), passage.tolerance) >= 0);
    if (!meeting) return state;
    state = meeting.become;
  }
}

/** The places of a bar, from low to high: its own prices, and those between them at which something may happen. */
function placesOf<State>(passage: Passage<State>, state: State, { open, high, low, close }: Extent): Place[] {
  const { tolerance } = passage;
  const own = [open, high, low, close].map((price): Place => ({ price, side: 0 }));
  const [bottom, top]: [Place, Place] = [own[2], own[1]];
  const others = passage
    .points(state)
    .map(placeOf)
    .filter((place) => compare(place, bottom, tolerance) > 0 && compare(place, top, tolerance) < 0);
  const sorted = [...own, ...others].sort((a, b) => compare(a, b, tolerance));
  return sorted.filter((place, i) => i === 0 || compare(place, sorted[i - 1], tolerance) > 0);
}

/** What must be passed happens just beyond its price. */
function placeOf({ price, way, strict }: Pick<Meeting<unknown>, "price" | "way" | "strict">): Place {
  return { price, side: strict ? way : 0 };
}

function compare(a: Place, b: Place, tolerance: number): number {
  const distance = a.price - b.price;
  return Math.abs(distance) > tolerance ? Math.sign(distance) : a.side - b.side;
}
