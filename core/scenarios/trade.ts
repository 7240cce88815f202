import { furthestOn, waysThrough, type Extent, type Meeting, type Passage } from "#core/observe/ways";
import type { Order } from "#core/scenarios/terms";

/** The prices of a scenario on a bar: numbers, whatever rule they follow. */
export interface Orders {
  /** 1 for a long, -1 for a short. */
  sign: 1 | -1;
  order: Order;
  /** Planned price; a market order may be without one. */
  entry?: number;
  stop: number;
  /** The stop follows a line of its own, until something else moves it. */
  stopMoves?: true;
  /** Nearest first; shares of the position, together 1. */
  targets: readonly { price: number; share: number }[];
  breakEven: { after: "target" } | { r: number } | null;
  /** Wrong once price is strictly beyond, before an entry. */
  wrong?: number;
  /** What a round trip costs, in price units. */
  cost: number;
  /** A limit and a target fill when price has passed them by so much, in price units. */
  through: number;
  /** Prices are equal within this: a thousandth of a tick. */
  tolerance: number;
}

/** An order, what became of it, and in the end its result. */
export interface Trade {
  phase: "armed" | "open" | "done";
  fill: number;
  /** Planned entry to stop: what R is counted in. */
  risk: number;
  /** Where the stop stands now. */
  stop: number;
  /** Targets reached. */
  hit: number;
  /** Whether the stop has been moved to the fill. */
  free: boolean;
  /** Whether it has been moved from where it was planned, to the fill or along structure. */
  moved?: true;
  /** In R, the cost taken off. */
  realised: number;
}

/** What happens to a trade, with its price. */
export interface TradeEvent {
  event: "entered" | "target" | "breakEven" | "stopped" | "completed" | "invalid" | "missed";
  price: number;
  /** Which target, from 1. */
  target?: number;
  /** Result so far in R, of events that realise something. */
  r?: number;
}

/** A trade and what has happened to it within a bar. */
export interface Course {
  trade: Trade;
  events: readonly TradeEvent[];
}

/** An order that rests from now on. */
export function arm({ sign, entry, stop }: Orders): Trade {
  const risk = entry === undefined ? 0 : sign * (entry - stop);
  return { phase: "armed", fill: 0, risk, stop, hit: 0, free: false, realised: 0 };
}

/** Share of the position that is still open. */
function shareLeft({ targets }: Orders, { hit }: Trade): number {
  return targets.slice(hit).reduce((sum, { share }) => sum + share, 0);
}

export function inR({ sign }: Pick<Orders, "sign">, { fill, risk }: Trade, price: number): number {
  return (sign * (price - fill)) / risk;
}

/** What a trade is worth in R with price where it is: what it has realised and, while it is open, the rest. */
export function valueAt(orders: Orders, trade: Trade, price: number): number {
  return trade.realised + (trade.phase === "open" ? shareLeft(orders, trade) * inR(orders, trade, price) : 0);
}

/** What happens at a bar's open, before anything within the bar: it is known, and never ambiguous. */
export function atOpen(orders: Orders, trade: Trade, open: number): Course {
  if (trade.phase === "armed") return fillAtOpen(orders, trade, open);
  return trade.phase === "open" ? gap(orders, trade, open) : { trade, events: [] };
}

function fillAtOpen(orders: Orders, trade: Trade, open: number): Course {
  const { sign, stop, wrong, tolerance } = orders;
  const isWrong = wrong !== undefined && sign * (open - wrong) < -tolerance;
  if (isWrong || sign * (open - stop) <= tolerance)
    return over({ trade, events: [] }, { event: "invalid", price: open });
  return isFilledAt(orders, open) ? enter(orders, trade, open) : { trade, events: [] };
}

/** Whether a resting order fills at an open that is at or beyond its price. */
export function isFilledAt({ sign, order, entry, tolerance }: Orders, open: number): boolean {
  if (order === "market") return true;
  const against = sign * (open - (entry ?? open));
  return order === "limit" ? against <= tolerance : against >= -tolerance;
}

/**
 * A fill at or past the first target, with less than a quarter of the planned risk left, or without any, is not taken.
 */
function enter(orders: Orders, trade: Trade, fill: number): Course {
  const { sign, stop, targets, cost, tolerance } = orders;
  const left = sign * (fill - stop);
  const risk = orders.entry === undefined ? left : trade.risk;
  if (sign * (fill - targets[0].price) >= -tolerance || left < risk / 4 - tolerance || risk <= tolerance)
    return over({ trade, events: [] }, { event: "missed", price: fill });
  const open: Trade = { ...trade, phase: "open", fill, risk, realised: cost === 0 ? 0 : -cost / risk };
  return { trade: open, events: [{ event: "entered", price: fill }] };
}

/** A gap through the stop fills at the open; so do targets and break-even before it, nearest first. */
function gap(orders: Orders, trade: Trade, open: number): Course {
  const { sign, tolerance } = orders;
  let course: Course = { trade, events: [] };
  if (sign * (open - trade.stop) <= tolerance) return stopped(orders, course, open);
  for (;;) {
    const next = ahead(orders, course).find(({ price }) => sign * (open - price) >= -tolerance);
    if (!next || course.trade.phase === "done") return course;
    course = next.meet(open);
  }
}

/**
 * The next target, and the price at which the stop goes to break-even; the nearer first, of two at one price the
 * target.
 */
function ahead(orders: Orders, course: Course): { price: number; through: number; meet(price: number): Course }[] {
  const { sign, targets, breakEven, through } = orders;
  const { trade } = course;
  if (trade.phase !== "open") return [];
  const target = targets[trade.hit];
  const out = [{ price: target.price, through, meet: (price: number) => reach(orders, course, price) }];
  if (breakEven && "r" in breakEven && !trade.free) {
    const price = freeAt(orders, trade, breakEven.r);
    const free = { price, through: 0, meet: () => breakEvenOf(orders, course) };
    if (sign * (price - target.price) < -orders.tolerance) out.unshift(free);
    else out.push(free);
  }
  return out;
}

function freeAt({ sign }: Orders, { fill, risk }: Trade, r: number): number {
  return fill + sign * r * risk;
}

function reach(orders: Orders, { trade, events }: Course, price: number): Course {
  const { targets, breakEven } = orders;
  const realised = trade.realised + targets[trade.hit].share * inR(orders, trade, price);
  const next: Trade = { ...trade, hit: trade.hit + 1, realised };
  const course: Course = {
    trade: next,
    events: [...events, { event: "target", price, target: next.hit, r: realised }],
  };
  if (next.hit === targets.length) return over(course, { event: "completed", price, r: realised });
  return breakEven && "after" in breakEven && !next.free ? breakEvenOf(orders, course) : course;
}

/** The stop rests at the fill from now on, unless it stands better already. */
function breakEvenOf({ sign }: Orders, { trade, events }: Course): Course {
  const free = { ...trade, free: true };
  if (sign * (trade.stop - trade.fill) >= 0) return { trade: free, events };
  return {
    trade: { ...free, stop: trade.fill, moved: true },
    events: [...events, { event: "breakEven", price: trade.fill }],
  };
}

function stopped(orders: Orders, { trade, events }: Course, price: number): Course {
  const r = trade.realised + shareLeft(orders, trade) * inR(orders, trade, price);
  return over({ trade: { ...trade, realised: r }, events }, { event: "stopped", price, r });
}

function over({ trade, events }: Course, event: TradeEvent): Course {
  return { trade: { ...trade, phase: "done" }, events: [...events, event] };
}

/**
 * What a trade may meet within a bar. This is where it is decided that a stop was hit, or a target, or an order filled.
 */
function passageOf(orders: Orders): Passage<Course> {
  const { sign, order, entry, wrong, through, tolerance } = orders;
  const back = -sign as 1 | -1;
  const fill = entry !== undefined && order !== "market" ? fillOf(orders, entry) : undefined;
  const beyond = wrong === undefined ? undefined : ({ price: wrong, way: back, strict: true } as const);
  const meetings = (course: Course): Meeting<Course>[] => {
    const { trade } = course;
    if (trade.phase === "done") return [];
    if (trade.phase === "open")
      return [
        { price: trade.stop, way: back, become: stopped(orders, course, trade.stop) },
        ...ahead(orders, course).map(({ price, through: by, meet }) => ({
          price: price + sign * by,
          way: sign,
          become: meet(price),
        })),
      ];
    const out: Meeting<Course>[] = [];
    if (beyond) out.push({ ...beyond, become: over(course, { event: "invalid", price: beyond.price }) });
    if (fill && entry !== undefined) out.push({ ...fill, become: joined(course, enter(orders, trade, entry)) });
    return out;
  };
  const points = ({ trade }: Course) => {
    const own = trade.phase === "open" ? trade.fill : (entry ?? NaN);
    const { breakEven, targets, stop } = orders;
    // Counted in the risk it was planned with: a stop along a line may have gone on since.
    const free = breakEven && "r" in breakEven ? [own + sign * breakEven.r * trade.risk] : [];
    return [
      ...(beyond ? [beyond] : []),
      ...(fill ? [fill] : []),
      ...[stop, trade.stop, own].map((price) => ({ price, way: back })),
      ...targets.map(({ price }) => ({ price: price + sign * through, way: sign })),
      ...free.map((price) => ({ price, way: sign })),
    ].filter(({ price }) => Number.isFinite(price));
  };
  return { meetings, points, key, isEnded: ({ trade }) => trade.phase === "done", tolerance };
}

function fillOf({ sign, order, through }: Orders, entry: number): { price: number; way: 1 | -1 } {
  return order === "limit" ? { price: entry - sign * through, way: -sign as 1 | -1 } : { price: entry, way: sign };
}

function joined({ events }: Course, next: Course): Course {
  return { trade: next.trade, events: [...events, ...next.events] };
}

function key({ events }: Course): string {
  return events.map(({ event, price, target }) => `${event} ${target ?? ""} ${price}`).join(", ");
}

/** What a bar did to a trade, by the way that counts, and what else it may have done. */
export interface Passed {
  counted: Course;
  others: Course[];
  /** Furthest prices that every way to the counted events passes while the trade is open. */
  high: number;
  low: number;
}

/**
 * What the ways through a bar make of a trade after its open. That way counts which leaves it with the lowest value at
 * the close; of equal ones that which ends it, then that with fewer events.
 */
export function throughBar(orders: Orders, trade: Trade, bar: Extent): Passed {
  // Most bars reach nothing: then there is one way for all that matters, and it passes both extremes.
  if (!reaches(orders, trade, bar))
    return { counted: { trade, events: NOTHING }, others: NO_OTHERS, high: bar.high, low: bar.low };
  const passage = passageOf(orders);
  const start: Course = { trade, events: [] };
  const courses = [...waysThrough(passage, start, bar).values()];
  const counted = courses.reduce((best, one) => (isWorse(orders, one, best, bar.close) ? one : best));
  const others = courses.filter((course) => course !== counted);
  // One that was filled and stopped at one price was open there, too.
  const isOpen = (before: Course, after: Course) =>
    before.trade.phase === "open" || after.trade.phase === "open" || after.trade.fill !== before.trade.fill;
  return { counted, others, ...furthestOn(passage, start, bar, key(counted), isOpen) };
}

const NOTHING: readonly TradeEvent[] = [];
const NO_OTHERS: Course[] = [];

/** Whether anything a trade may meet lies within a bar, its open included. */
export function reaches(orders: Orders, trade: Trade, bar: Extent): boolean {
  const { high, low } = bar;
  const { sign, order, entry, wrong, targets, breakEven, tolerance } = orders;
  // The furthest price against, and with, the trade.
  const [against, with_] = sign > 0 ? [low, high] : [high, low];
  if (trade.phase === "open") {
    // An open at the target fills it, whatever it must be passed by within the bar.
    const next = targets[trade.hit].price;
    if (sign * (against - trade.stop) <= tolerance || sign * (with_ - next) >= -tolerance) return true;
    return (
      breakEven !== null && "r" in breakEven && !trade.free && isIn(bar, freeAt(orders, trade, breakEven.r), tolerance)
    );
  }
  if (sign * (against - orders.stop) <= tolerance) return true;
  if (wrong !== undefined && sign * (against - wrong) <= tolerance) return true;
  return entry !== undefined && order !== "market" && isIn(bar, fillOf(orders, entry).price, tolerance);
}

function isIn({ high, low }: Extent, price: number, tolerance: number): boolean {
  return price <= high + tolerance && price >= low - tolerance;
}

/** Between which prices an order that rests meets nothing; none for one that is filled at the next open. */
export function restingBand({
  sign,
  order,
  entry,
  stop,
  wrong = stop,
  ...orders
}: Orders): { over: number; under: number } | undefined {
  if (order === "market" || entry === undefined) return undefined;
  const fill = fillOf({ sign, order, entry, stop, wrong, ...orders }, entry).price;
  const against = sign * Math.max(sign * stop, sign * wrong);
  const near = order === "limit" ? sign * Math.max(sign * entry, sign * fill, sign * against) : against;
  const ahead = order === "limit" ? sign * Infinity : sign * Math.min(sign * entry, sign * fill);
  return sign > 0 ? { over: near, under: ahead } : { over: ahead, under: near };
}

function isWorse(orders: Orders, one: Course, than: Course, close: number): boolean {
  const difference = valueAt(orders, one.trade, close) - valueAt(orders, than.trade, close);
  if (Math.abs(difference) > 1e-9) return difference < 0;
  const [ends, otherEnds] = [one.trade.phase === "done", than.trade.phase === "done"];
  if (ends !== otherEnds) return ends;
  if (one.events.length !== than.events.length) return one.events.length < than.events.length;
  return key(one) < key(than);
}

/** Moves the stop of an open trade to a line of structure where that is better; it rests there from the close on. */
export function trailed({ sign, tolerance }: Orders, trade: Trade, close: number, line: number | undefined): Trade {
  if (line === undefined || trade.phase !== "open") return trade;
  const better = sign * (line - trade.stop) > tolerance && sign * (close - line) > tolerance;
  return better ? { ...trade, stop: line, moved: true } : trade;
}

/** A trade at the beginning of a bar: a stop that follows a line stands where the line does. */
export function standing({ stop, stopMoves }: Orders, trade: Trade): Trade {
  return stopMoves && !trade.moved && trade.stop !== stop ? { ...trade, stop } : trade;
}
