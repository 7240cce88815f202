import { FINDING_DEFAULTS } from "#core/finding/params";
import { RungReader } from "#core/finding/reader";
import { allocate, slice, type Series } from "#core/series/series";
import { ALL_HOURS, Calendar } from "#core/time/calendar";
import { DAY } from "#core/time/dates";
import { drawsOf } from "#core/statistics/intervals";

const TICK = 0.01;
/** Volatility of a day, as a share; steps that make its high and low. */
const DAILY = 0.01;
const STEPS = 20;
/** Bars that an effect lasts, and its drift in daily volatilities a bar. */
const LASTS = 6;

/** Numbers of a normal distribution (G. E. P. Box and M. E. Muller, 1958), the same for the same seed. */
export function normals(seed: number): () => number {
  const draw = drawsOf(seed);
  const share = () => (draw(2 ** 31) + 1) / 2 ** 31;
  return () => Math.sqrt(-2 * Math.log(share())) * Math.cos(2 * Math.PI * share());
}

/**
 * Days of a walk without drift; with `effect` above 0 one in which zones mean something: where price comes back for the
 * first time to one that was left strongly (2.2 ATR or more) it is pushed away, by `effect` daily volatilities a bar
 * for six bars, and through one that was left weakly.
 */
export function plantedEffects(seed: number, length: number, effect: number): Series {
  const normal = normals(seed);
  const out = allocate(length);
  const reader = new RungReader(slice(out, 0, 0), { count: 1, unit: "day" }, new Calendar(ALL_HOURS), TICK, {
    ...FINDING_DEFAULTS,
  });
  const whole = (price: number) => Number((Math.round(price / TICK) * TICK).toFixed(2));
  let standing: { side: string; near: number; departure: number }[] = [];
  let [price, drift, left, seen] = [1000, 0, 0, 0];
  for (let i = 0; i < length; i++) {
    const open = price;
    let [high, low] = [price, price];
    for (let n = 0; n < STEPS; n++) {
      price *= Math.exp((DAILY * drift) / STEPS + (DAILY / Math.sqrt(STEPS)) * normal());
      [high, low] = [Math.max(high, price), Math.min(low, price)];
    }
    price = whole(price);
    const bar = {
      ...{ time: Date.UTC(2000, 0, 3) + i * DAY, open, high: whole(Math.max(high, price)) },
      ...{ low: whole(Math.min(low, price)), close: price, volume: 1_000 },
    };
    for (const name of ["time", "open", "high", "low", "close", "volume"] as const) out[name][i] = bar[name];
    if (--left <= 0) drift = 0;
    standing = standing.filter(({ side, near, departure }) => {
      if (side === "demand" ? bar.low > near : bar.high < near) return true;
      [drift, left] = [effect * (side === "demand" ? 1 : -1) * (departure >= 2.2 ? 1 : -1), LASTS];
      return false;
    });
    reader.push(bar);
    for (; seen < reader.bases.found.length; seen++) {
      const { side, bottom, top, departure } = reader.bases.found[seen];
      standing.push({ side, near: side === "demand" ? top : bottom, departure });
    }
  }
  return out;
}
