import type { ClosedBar } from "#core/observe/closedBar";
import { bucketOfTold } from "#core/observe/closedBars";
import { asLabel, type Instant } from "#core/observe/instant";
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
  private running: (RungBar & { key: number; until: Instant }) | undefined;
  private bucket: Bucket = { time: NaN, from: NaN, to: NaN };

  constructor(
    readonly rung: Timeframe,
    private readonly calendar: Calendar,
  ) {}

  /** Label of the bar that is being made. */
  get label(): number | undefined {
    return this.running?.key;
  }

  /** The bars of the rung that are known with a told bar, oldest first. */
  next(told: ClosedBar): RungBar[] {
    const out: RungBar[] = [];
    if (nominalLength(told.base) >= nominalLength(this.rung)) {
      this.end(out);
      out.push(plain(told));
      return out;
    }
    const { time: key, to } = this.bucketOf(told);
    if (this.running && this.running.key !== key) this.end(out);
    this.running = this.running
      ? joined(this.running, told)
      : { ...plain(told), time: asLabel(key), key, until: to as Instant };
    if (told.to >= to) this.end(out);
    return out;
  }

  private end(out: RungBar[]): void {
    if (this.running) out.push(plain(this.running));
    this.running = undefined;
  }

  private bucketOf({ time, base }: ClosedBar): Bucket {
    const { bucket } = this;
    // Bars within one bucket need no calendar; by dates each is looked up, for there are few.
    if (isIntraday(base) && time >= bucket.from && time < bucket.to) return bucket;
    return (this.bucket = bucketOfTold(time, base, this.rung, this.calendar));
  }
}

function joined<B extends RungBar>(running: B, { high, low, close, volume }: ClosedBar): B {
  const { high: highest, low: lowest, volume: so } = running;
  return { ...running, high: Math.max(highest, high), low: Math.min(lowest, low), close, volume: so + volume };
}

function plain({ time, open, high, low, close, volume, from }: RungBar): RungBar {
  return { time, open, high, low, close, volume, from };
}
