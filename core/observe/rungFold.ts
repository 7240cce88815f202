import type { ClosedBar } from "#core/observe/closedBar";
import { bucketOfTold } from "#core/observe/closedBars";
import { asInstant, asLabel } from "#core/observe/instant";
import type { Bucket } from "#core/time/boundaries";
import type { Calendar } from "#core/time/calendar";
import { isIntraday, nominalLength, type Timeframe } from "#core/time/timeframe";

/** A bar of a rung as it was put together of told ones: it opened with the first of them. */
export type RungBar = Omit<ClosedBar, "to" | "base">;

/**
 * Puts told bars together to those of a rung. A rung's bar is known with the told bar that completes it, or with the
 * first one after it, so that holidays, missing minutes and calendars of all hours lose no close. A told bar as long as
 * the rung, or longer, is a bar of the rung itself. O(1) a bar.
 */
export class RungFold {
  /** The bar that is being made, as numbers: open, high, low, close, volume. */
  private readonly made = new Float64Array(5);
  private opened = NaN;
  private key = NaN;
  private until = NaN;
  private isMaking = false;
  private base: Timeframe | undefined;
  private whole = false;
  private isByClock = false;
  private bucket: Bucket = { time: NaN, from: NaN, to: NaN };

  constructor(
    readonly rung: Timeframe,
    private readonly calendar: Calendar,
  ) {}

  /** Label of the bar that is being made. */
  get label(): number | undefined {
    return this.isMaking ? this.key : undefined;
  }

  /** The bars of the rung that are known with a told bar, oldest first. */
  next(told: ClosedBar): readonly RungBar[] {
    if (this.base !== told.base) this.take(told.base);
    if (this.whole) return this.isMaking ? [this.bar(), plain(told)] : [plain(told)];
    const { bucket } = this;
    const { time } = told;
    // Bars within one bucket need no calendar; by dates each is looked up, for there are few.
    if (!(this.isByClock && time >= bucket.from && time < bucket.to))
      this.bucket = bucketOfTold(time, told.base, this.rung, this.calendar);
    const before = this.isMaking && this.bucket.time !== this.key ? this.bar() : undefined;
    if (this.isMaking) this.join(told);
    else this.begin(told);
    const ended = told.to >= this.until ? this.bar() : undefined;
    if (!before && !ended) return NO_BARS;
    return before && ended ? [before, ended] : [(before ?? ended) as RungBar];
  }

  /** Told bars of one resolution share their timeframe: what hangs on it is asked once. */
  private take(base: Timeframe): void {
    this.base = base;
    // As long as the rung, or longer, it is a bar of the rung itself.
    this.whole = nominalLength(base) >= nominalLength(this.rung);
    this.isByClock = isIntraday(base);
  }

  private begin({ open, high, low, close, volume, from }: ClosedBar): void {
    this.made.set([open, high, low, close, volume]);
    this.opened = from;
    this.key = this.bucket.time;
    this.until = this.bucket.to;
    this.isMaking = true;
  }

  private join({ high, low, close, volume }: ClosedBar): void {
    const { made } = this;
    if (high > made[1]) made[1] = high;
    if (low < made[2]) made[2] = low;
    made[3] = close;
    made[4] += volume;
  }

  /** The bar that was being made, which is over. */
  private bar(): RungBar {
    const [open, high, low, close, volume] = this.made;
    this.isMaking = false;
    return { time: asLabel(this.key), open, high, low, close, volume, from: asInstant(this.opened) };
  }
}

const NO_BARS: readonly RungBar[] = [];

function plain({ time, open, high, low, close, volume, from }: RungBar): RungBar {
  return { time, open, high, low, close, volume, from };
}
