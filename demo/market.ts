import { fromBars, type Bar, type Series } from "#core/series/series";
import { Calendar, type CalendarSpec } from "#core/time/calendar";
import { DAY, dayNumber, MINUTE } from "#core/time/dates";
import { seeded, type Random } from "./random.ts";
import { plant, skeleton, type PlantedWave } from "./waves.ts";

export interface DemoMarket {
  id: string;
  name: string;
  kind: "currency" | "commodity";
  tick: number;
  pip: number;
  pipName: string;
  decimals: number;
  calendar: CalendarSpec;
  /** Price at the start of the history, at its end, and how wide a day swings (share of price). */
  from: number;
  to: number;
  swing: number;
}

export interface DemoBars {
  daily: Series;
  /** Minutes of history, up to the demo's present. */
  minutes: Series;
  /** Minutes the simulated feed has yet to play. */
  tape: Series;
  /** The truth behind the prices. */
  truth: PlantedWave;
}

export interface Span {
  /** First trading date, first date with minutes, and end of the tape (day numbers); the present (ms UTC). */
  firstDay: number;
  firstMinuteDay: number;
  lastDay: number;
  now: number;
}

/** Steps a day is sampled with where only daily bars are kept. */
const COARSE_STEPS = 48;

/**
 * Bars of one market from its seed: a planted wave tree gives the turns, a bridge of noise between two turns the
 * way there, sessions the times. Daily bars of the minute weeks are made of those minutes by whoever derives them.
 */
export function makeBars(market: DemoMarket, span: Span): DemoBars {
  const random = seeded(market.id);
  const calendar = new Calendar(market.calendar);
  const days: number[] = [];
  for (let day = span.firstDay; day <= span.lastDay; day++) if (calendar.trades(day)) days.push(day);
  const start = { day: 0, log: Math.log(market.from) };
  const end = { day: days.length, log: Math.log(market.to) };
  const truth = plant(start, end, "impulse", 4, random);
  const path = new Path(skeleton(truth), market.swing, random);
  const daily: Bar[] = [];
  const minutes: Bar[] = [];
  days.forEach((day, i) => {
    const opens = openMinutes(calendar, day);
    if (day < span.firstMinuteDay) {
      const opened = path.leave();
      const prices = Array.from({ length: COARSE_STEPS }, (_, n) => path.at(i + (n + 1) / COARSE_STEPS));
      daily.push(barOf(day * DAY, opened, prices, market, volumeOf(random, 1000)));
      return;
    }
    const overnight = new Map(calendar.sessions(day).map(({ open, close, kind }) => [open, { close, thin: kind === "overnight" }]));
    let thin = false;
    opens.forEach((time, n) => {
      thin = overnight.get(time)?.thin ?? thin;
      const opened = path.leave();
      const prices = [1, 2, 3].map((part) => path.at(i + (n + part / 3) / opens.length));
      minutes.push(barOf(time, opened, prices, market, volumeOf(random, thin ? 4 : 20)));
    });
  });
  const present = minutes.findIndex(({ time }) => time + MINUTE > span.now);
  return {
    daily: fromBars(daily),
    minutes: fromBars(minutes.slice(0, present)),
    tape: fromBars(minutes.slice(present)),
    truth,
  };
}

function openMinutes(calendar: Calendar, day: number): number[] {
  return calendar.sessions(day).flatMap(({ open, close }) => {
    return Array.from({ length: Math.round((close - open) / MINUTE) }, (_, n) => open + n * MINUTE);
  });
}

function volumeOf(random: Random, usual: number): number {
  return Math.max(1, Math.round(usual * Math.exp(0.5 * random.normal())));
}

function barOf(time: number, opened: number, logs: readonly number[], { tick, decimals }: DemoMarket, volume: number): Bar {
  const round = (log: number) => Number((Math.round(Math.exp(log) / tick) * tick).toFixed(decimals));
  const prices = [opened, ...logs].map(round);
  return { time, open: prices[0], high: Math.max(...prices), low: Math.min(...prices), close: prices[prices.length - 1], volume };
}

/**
 * Log price along the skeleton, asked for in order of time. Between two turns it is a straight way plus noise that
 * is drawn back to it and turned around at the turns' prices, so that each turn remains the extreme of its legs.
 */
class Path {
  private leg = 0;
  private noise = 0;
  private time = 0;
  private value: number;

  constructor(
    private readonly turns: readonly { day: number; log: number }[],
    private readonly swing: number,
    private readonly random: Random,
  ) {
    this.value = turns[0].log;
  }

  /** The price last returned: where the next bar opens. */
  leave(): number {
    return this.value;
  }

  at(time: number): number {
    const before = this.leg;
    while (this.leg < this.turns.length - 2 && time > this.turns[this.leg + 1].day) this.leg++;
    const [from, to] = [this.turns[this.leg], this.turns[this.leg + 1]];
    if (this.leg > before) {
      // The step that passes a turn stands on it, so that the planted price is traded.
      this.noise = 0;
      this.time = time;
      return (this.value = from.log);
    }
    const span = to.day - from.day;
    const share = (time - from.day) / span;
    const step = time - this.time;
    this.time = time;
    const left = Math.max(1e-9, to.day - time);
    // Noise wider than its leg would only be folded back and leave flat tops.
    const swing = Math.min(this.swing, 0.4 * Math.abs(to.log - from.log));
    this.noise += swing * Math.sqrt(step) * this.random.normal() - this.noise * Math.min(1, step / Math.min(left, 1.5));
    const raw = from.log + (to.log - from.log) * share + this.noise;
    return (this.value = reflect(raw, Math.min(from.log, to.log), Math.max(from.log, to.log)));
  }
}

function reflect(value: number, low: number, high: number): number {
  if (high - low < 1e-9) return low;
  const width = high - low;
  const folded = ((((value - low) % (2 * width)) + 2 * width) % (2 * width));
  return low + (folded > width ? 2 * width - folded : folded);
}

export function dayOf(text: string): number {
  return dayNumber(Date.parse(`${text}T00:00:00Z`));
}
