import { allocate, firstAtOrAfter, slice, type Series } from "#core/series/series";
import { Calendar, type CalendarSpec } from "#core/time/calendar";
import { DAY, MINUTE, parseDate } from "#core/time/dates";
import { Path, type Route } from "./paths.ts";
import { seeded, type Random } from "./random.ts";
import { releasesOf } from "./releases.ts";
import type { PlantedWave } from "./waves.ts";

export interface DemoMarket {
  id: string;
  name: string;
  kind: "currency" | "commodity" | "index" | "share";
  tick: number;
  pip: number;
  pipName: string;
  decimals: number;
  calendar: CalendarSpec;
  /** Whose figures move it. */
  region: string;
  route: Route;
  /**
   * A market with the same calendar whose deviations from its own way this one shares, `beta` times; forgotten over
   * `memory` days.
   */
  led?: { by: string; beta: number; memory?: number };
}

export interface DemoBars {
  /**
   * Bars of a day, then of a quarter of an hour, then of a minute up to the demo's present: each goes on where the last
   * ends.
   */
  daily: Series;
  quarters: Series;
  minutes: Series;
  /** Minutes the simulated feed has yet to play. */
  tape: Series;
  /** The truth behind the prices. */
  truth: PlantedWave;
}

export interface Span {
  /**
   * First trading date, first dates with quarters of an hour and with minutes, end of the tape (day numbers); the
   * present (ms UTC).
   */
  firstDay: number;
  firstQuarterDay: number;
  firstMinuteDay: number;
  lastDay: number;
  /** When the first scenarios of the world are written: what came after is played by the feed. */
  firstSaid: number;
  now: number;
}

/** Prices a bar is sampled with, and the share of a day's movement that happens before it opens. */
const SAMPLES = { day: 12, quarter: 3, minute: 3 };
const GAP = 0.1;
/** Overnight an hour moves a third of what one of the regular session does, and trades a fifth. */
const THIN = { move: 1 / 3, trade: 1 / 5 };

/**
 * Bars of one market from its seed: the same on every machine, and for all bars of its world the same prices, since
 * each resolution follows on the one before and coarser ones are derived.
 */
export function makeBars(market: DemoMarket, span: Span, all: readonly DemoMarket[]): DemoBars {
  const calendar = new Calendar(market.calendar);
  const days: number[] = [];
  for (let day = span.firstDay; day <= span.lastDay; day++) if (calendar.trades(day)) days.push(day);
  const pathOf = ({ id, region, route }: DemoMarket) =>
    new Path(`${id} path`, route, days.length, releasesOf(region, span.firstDay, span.lastDay));
  const own = pathOf(market);
  const leader = all.find(({ id }) => id === market.led?.by);
  const led = leader && market.led ? follow(pathOf(leader), market.led) : () => 0;
  const price: Sampler = (at, instant) => own.at(at, instant) + led(at, instant);
  const writer = new BarWriter(price, market);
  days.forEach((day, i) => {
    if (day < span.firstQuarterDay) writer.day(day, i, calendar);
    else writer.intraday(day, i, calendar, day < span.firstMinuteDay ? "quarter" : "minute");
  });
  const minutes = writer.series("minute");
  const present = firstAtOrAfter(minutes, span.now - MINUTE + 1);
  return {
    daily: writer.series("day"),
    quarters: writer.series("quarter"),
    minutes: slice(minutes, 0, present),
    tape: slice(minutes, present, minutes.length),
    truth: own.truth,
  };
}

function follow(leader: Path, { beta, memory }: { beta: number; memory?: number }): Sampler {
  let [usual, time] = [0, 0];
  return (at, instant) => {
    const deviation = leader.deviation(at, instant);
    if (memory !== undefined) usual += (deviation - usual) * (1 - Math.exp((time - at) / memory));
    time = at;
    return beta * (deviation - usual);
  };
}

type Sampler = (at: number, instant: number) => number;
type Resolution = keyof typeof SAMPLES;

/** Samples a price into columns, bar after bar. */
class BarWriter {
  private readonly out: Record<Resolution, { series: Series; length: number }> = {
    day: { series: allocate(6000), length: 0 },
    quarter: { series: allocate(32_000), length: 0 },
    minute: { series: allocate(90_000), length: 0 },
  };
  private readonly random: Random;
  private readonly whole: number;
  private last = NaN;
  private lastClose = -Infinity;

  constructor(
    private readonly price: Sampler,
    private readonly market: DemoMarket,
  ) {
    this.random = seeded(`${market.id} volume`);
    this.whole = 10 ** market.decimals;
  }

  series(resolution: Resolution): Series {
    const { series, length } = this.out[resolution];
    return slice(series, 0, length);
  }

  day(day: number, i: number, calendar: Calendar): void {
    const sessions = calendar.sessions(day);
    const [open, close] = [sessions[0].open, calendar.close(day)];
    const start = i + this.openAt(i, open, close);
    const traded = sessions.reduce(
      (sum, session) =>
        sum + ((session.close - session.open) / MINUTE) * (session.kind === "overnight" ? THIN.trade : 1),
      0,
    );
    this.bar("day", day * DAY, start, i + 1, open, close, 20 * traded);
  }

  intraday(day: number, i: number, calendar: Calendar, resolution: "quarter" | "minute"): void {
    const sessions = calendar.sessions(day);
    const length = resolution === "quarter" ? 15 * MINUTE : MINUTE;
    const weights = sessions.map(({ open, close, kind }) => (close - open) * (kind === "overnight" ? THIN.move : 1));
    const whole = weights.reduce((sum, weight) => sum + weight, 0);
    const begin = this.openAt(i, sessions[0].open, sessions[sessions.length - 1].close);
    let done = 0;
    sessions.forEach(({ open, close, kind }, k) => {
      const at = (time: number) =>
        i + begin + (1 - begin) * Math.min(1, (done + (weights[k] * (time - open)) / (close - open)) / whole);
      const volume = (20 * length) / MINUTE;
      for (let time = open; time < close; time += length) {
        const end = Math.min(close, time + length);
        this.bar(resolution, time, at(time), at(end), time, end, volume * (kind === "overnight" ? THIN.trade : 1));
      }
      done += weights[k];
    });
  }

  /** Share of the day that has moved unseen when it opens: none where the market never shut. */
  private openAt(i: number, open: number, close: number): number {
    const shut = i > 0 && open > this.lastClose;
    this.lastClose = close;
    return shut ? GAP : 0;
  }

  private bar(
    resolution: Resolution,
    time: number,
    from: number,
    to: number,
    opens: number,
    closes: number,
    usual: number,
  ): void {
    const { series, length: n } = this.out[resolution];
    const samples = SAMPLES[resolution];
    if (Number.isNaN(this.last) || from > this.lastAt + 1e-9) this.last = this.sample(from, opens);
    const open = this.last;
    let [high, low] = [open, open];
    for (let k = 1; k <= samples; k++) {
      const price = this.sample(from + ((to - from) * k) / samples, opens + ((closes - opens) * k) / samples);
      if (price > high) high = price;
      if (price < low) low = price;
      this.last = price;
    }
    series.time[n] = time;
    series.open[n] = open;
    series.high[n] = high;
    series.low[n] = low;
    series.close[n] = this.last;
    series.volume[n] = Math.max(1, Math.round(usual * Math.exp(0.5 * this.random.normal())));
    this.out[resolution].length = n + 1;
  }

  private lastAt = -Infinity;

  private sample(at: number, instant: number): number {
    this.lastAt = at;
    const { tick } = this.market;
    return Math.round(Math.round(Math.exp(this.price(at, instant)) / tick) * tick * this.whole) / this.whole;
  }
}

export function dayOf(text: string): number {
  const day = parseDate(text);
  if (day === undefined) throw new RangeError(`${text} is not a date.`);
  return day;
}
