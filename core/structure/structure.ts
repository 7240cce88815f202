import type { Detector, Track } from "#core/series/track";
import type { SwingDetector } from "#core/structure/swingDetector";
import type { Side, Swing } from "#core/structure/swings";

export type Way = "up" | "down";
export type StructureEventName = "break" | "shift" | "sweep" | "failedBreak";

export interface StructureEvent {
  event: StructureEventName;
  /** The way price went beyond the swing. */
  direction: Way;
  /** Index of the bar at whose close it is known. */
  at: number;
  /** Price and bar of the swing it is about. */
  price: number;
  swing: number;
  /** Only a swing within the last leg, not the trend's extreme, was broken. */
  inner?: boolean;
  /** How far the wick went beyond, for sweeps and failed breaks: in price units, and in ATR known before the bar. */
  depth?: number;
  depthAtr?: number;
}

/** A price and the bar it is of. */
export interface Spot {
  price: number;
  index: number;
}

export interface Trend {
  way: Way;
  /** Index of the bar whose close began it. */
  since: number;
  /** The extreme the trend has reached. */
  extreme: Spot;
  /** The valid opposite swing: a close beyond it is a shift. */
  line: Spot;
  /** Where the leg that began the trend came from. */
  origin: Spot;
}

export interface StructureRules {
  /** A close beyond a swing that is taken back within this many bars is a failed break. */
  failedWithin: number;
}

export const STRUCTURE_RULES: StructureRules = { failedWithin: 3 };

/** A swing price has not closed beyond. */
interface Standing {
  swing: Swing;
  swept: boolean;
}

interface Attempt {
  event: StructureEvent;
  until: number;
  furthest: number;
}

/**
 * Trend, its breaks, shifts and sweeps by closes of one rung (common practice, no source). Rules:
 * - the trend begins with the first close strictly beyond a confirmed swing;
 * - break: a close strictly beyond the last confirmed swing on the trend's side (`inner` when the trend's extreme lies
 *   further), or beyond the swing at its extreme; each swing once;
 * - the valid opposite swing of an up trend is the lowest low after its last high, up to the bar that prints a new one
 *   (no wait for k bars), where that last high had stood for more than k bars; it moves with each such new extreme;
 * - shift: a close strictly beyond that swing; its trend's own line is the extreme it left;
 * - sweep: a wick strictly beyond the last confirmed swing of a side, the swing at the trend's extreme or the valid
 *   opposite swing, and a close not beyond; once for each; failed break: a close beyond that the close of one of the
 * next bars takes back.
 * Down trends are the mirror. Needs `swings` to be told of a bar before it. O(1) a bar.
 */
export class StructureDetector implements Detector {
  readonly events: StructureEvent[] = [];
  trend: Trend | undefined;
  private readonly last: Record<Side, Standing | undefined> = { high: undefined, low: undefined };
  /** The confirmed swing at the trend's extreme, while it stands. */
  private outer: Standing | undefined;
  private attempts: Attempt[] = [];
  private sweptLine: Spot | undefined;
  /** The deepest price against the trend since its extreme. */
  private pullback: Spot | undefined;

  constructor(
    private readonly track: Track,
    private readonly swings: SwingDetector,
    private readonly k: number,
    private readonly rules: StructureRules = STRUCTURE_RULES,
  ) {}

  next(i: number): void {
    this.answerAttempts(i);
    this.extend(i);
    this.judge("high", i);
    this.judge("low", i);
    for (const swing of this.swings.confirmed) this.confirm(swing);
  }

  /** Where the next shift would be, and which close makes it. */
  get nextShift(): { direction: Way; price: number; index: number } | undefined {
    const { trend } = this;
    return trend && { direction: trend.way === "up" ? "down" : "up", ...trend.line };
  }

  /** Moves the trend's extreme and, with it, the line. */
  private extend(i: number): void {
    const { trend, track } = this;
    if (!trend) return;
    const sign = trend.way === "up" ? 1 : -1;
    const forward = sign > 0 ? track.high[i] : track.low[i];
    const back = sign > 0 ? track.low[i] : track.high[i];
    if (!this.pullback || sign * (back - this.pullback.price) < 0) this.pullback = { price: back, index: i };
    if (sign * (forward - trend.extreme.price) <= 0) return;
    if (i - trend.extreme.index > this.k) trend.line = this.pullback;
    trend.extreme = { price: forward, index: i };
    this.pullback = undefined;
  }

  /** What the bar did to the swings above it, or below. */
  private judge(side: Side, i: number): void {
    const { track, trend } = this;
    const sign = side === "high" ? 1 : -1;
    const way: Way = side === "high" ? "up" : "down";
    const wick = side === "high" ? track.high[i] : track.low[i];
    const close = track.close[i];
    if (trend && trend.way !== way && sign * (close - trend.line.price) > 0) {
      this.turn(way, trend.line, i, "shift");
      return;
    }
    if (trend && trend.way !== way) this.sweepLine(trend, way, i, sign * (wick - trend.line.price));
    const last = this.last[side];
    const outer = trend?.way === way && this.outer !== last ? this.outer : undefined;
    const inner = outer !== undefined && last !== undefined && sign * (outer.swing.price - last.swing.price) > 0;
    for (const standing of [last, outer]) {
      if (!standing || sign * (wick - standing.swing.price) <= 0) continue;
      const beyond = sign * (close - standing.swing.price) > 0;
      if (!beyond) {
        if (!standing.swept) this.emit("sweep", way, i, standing.swing, sign * (wick - standing.swing.price));
        standing.swept = true;
        continue;
      }
      if (!trend) {
        this.turn(way, spotOf(standing.swing), i, "break");
        return;
      }
      this.gone(standing, side);
      if (trend.way !== way) continue;
      const event = this.emit("break", way, i, standing.swing);
      if (inner && standing === last) event.inner = true;
      this.attempts.push({ event, until: i + this.rules.failedWithin, furthest: wick });
    }
  }

  /** A wick through the line whose close came back: the line is a resting price before it is a confirmed swing. */
  private sweepLine(trend: Trend, way: Way, i: number, depth: number): void {
    if (depth <= 0 || trend.line === this.sweptLine) return;
    this.sweptLine = trend.line;
    const last = this.last[way === "up" ? "high" : "low"];
    if (last?.swing.index === trend.line.index) {
      if (last.swept) return;
      last.swept = true;
    }
    this.emit("sweep", way, i, trend.line, depth);
  }

  /** A trend begins by a close beyond `from`. */
  private turn(way: Way, from: Spot, i: number, event: "shift" | "break"): void {
    const { track } = this;
    const side: Side = way === "up" ? "high" : "low";
    const sign = way === "up" ? 1 : -1;
    // At most once a trend: from the swing to the bar that closed beyond it.
    let [extreme, origin]: [Spot, Spot | undefined] = [
      { price: sign > 0 ? track.high[i] : track.low[i], index: i },
      undefined,
    ];
    for (let j = from.index + 1; j <= i; j++) {
      const [forward, back] = sign > 0 ? [track.high[j], track.low[j]] : [track.low[j], track.high[j]];
      if (sign * (forward - extreme.price) > 0) extreme = { price: forward, index: j };
      if (!origin || sign * (back - origin.price) < 0) origin = { price: back, index: j };
    }
    origin ??= from;
    const done = this.emit(event, way, i, from);
    this.attempts.push({ event: done, until: i + this.rules.failedWithin, furthest: extreme.price });
    this.trend = { way, since: i, extreme, line: origin, origin };
    this.outer = undefined;
    this.pullback = undefined;
    for (let j = extreme.index + 1; j <= i; j++) {
      const back = sign > 0 ? track.low[j] : track.high[j];
      if (!this.pullback || sign * (back - this.pullback.price) < 0) this.pullback = { price: back, index: j };
    }
    const standing = this.last[side];
    if (standing && sign * (track.close[i] - standing.swing.price) > 0) this.last[side] = undefined;
  }

  private confirm(swing: Swing): void {
    const sign = swing.side === "high" ? 1 : -1;
    const isBeyond = (one: Standing | undefined): one is Standing =>
      one !== undefined && sign * (one.swing.price - swing.price) > 0;
    const before = this.last[swing.side];
    this.last[swing.side] = { swing, swept: false };
    if (!this.trend || (this.trend.way === "up") !== (swing.side === "high")) return;
    // The swing at the trend's extreme is remembered while lower highs come after it.
    if (!isBeyond(this.outer)) this.outer = isBeyond(before) ? before : undefined;
  }

  private gone(standing: Standing, side: Side): void {
    if (this.outer === standing) this.outer = undefined;
    if (this.last[side] === standing) this.last[side] = undefined;
  }

  private answerAttempts(i: number): void {
    if (this.attempts.length === 0) return;
    const { close, high, low } = this.track;
    const pending = this.attempts;
    this.attempts = [];
    for (const attempt of pending) {
      const { event } = attempt;
      const sign = event.direction === "up" ? 1 : -1;
      if (i > attempt.until) continue;
      attempt.furthest = sign > 0 ? Math.max(attempt.furthest, high[i]) : Math.min(attempt.furthest, low[i]);
      if (sign * (close[i] - event.price) > 0) this.attempts.push(attempt);
      else
        this.emit(
          "failedBreak",
          event.direction,
          i,
          { price: event.price, index: event.swing },
          sign * (attempt.furthest - event.price),
        );
    }
  }

  private emit(
    event: StructureEventName,
    direction: Way,
    at: number,
    { price, index }: Spot,
    depth?: number,
  ): StructureEvent {
    const said: StructureEvent = { event, direction, at, price, swing: index };
    if (depth !== undefined) Object.assign(said, { depth, depthAtr: depth / this.track.atr[Math.max(0, at - 1)] });
    this.events.push(said);
    return said;
  }
}

function spotOf({ price, index }: Swing): Spot {
  return { price, index };
}
