import { describe, expect, it } from "vitest";
import { ToldBars } from "#core/scenarios/toldBars";
import { fromBars } from "#core/series/series";
import { normals } from "#core/testing/plantedEffects";
import { layer, toldOf } from "#core/testing/told";
import { DAY, MINUTE } from "#core/time/dates";

const EVENLY = 200;

/** One walk, told in steps of so many hours, each step by its open, high, low and close. */
function walked(hours: number, days: number, daily: (day: number) => number) {
  const normal = normals(3);
  const steps = Array.from({ length: days * 24 }, (_, h) => (daily(Math.floor(h / 24)) / Math.sqrt(24)) * normal());
  let price = 1_000;
  const bars = [];
  for (let h = 0; h < steps.length; h += hours) {
    const open = price;
    let [high, low] = [price, price];
    for (const step of steps.slice(h, h + hours)) {
      price += step;
      [high, low] = [Math.max(high, price), Math.min(low, price)];
    }
    bars.push({ time: h * 60 * MINUTE, open, high, low, close: price, volume: 1 });
  }
  const told = new ToldBars();
  for (const one of toldOf([layer(hours === 24 ? "P1D" : `PT${hours}H`, fromBars(bars))])) told.push(one);
  return told;
}

describe("volatility of told bars", () => {
  it("is about the same of one walk whatever bars it is told in, and follows it when it grows", () => {
    const daily = (day: number) => (day < EVENLY ? 10 : 40);
    for (const hours of [24, 4]) {
      const told = walked(hours, 2 * EVENLY, daily);
      const per = 24 / hours;
      const [before, after] = [told.volatilityBefore(EVENLY * per), told.volatilityBefore(told.length - 1)];
      // The range of a walk is about 1.6 of its deviation (W. Feller 1951), less where it is seen in few steps.
      expect(before).toBeGreaterThan(9);
      expect(before).toBeLessThan(21);
      expect(after / before).toBeGreaterThan(2.7);
      expect(after / before).toBeLessThan(5.5);
    }
  });

  it("is of the bars before, not of the one that is entered on", () => {
    const told = walked(24, 30, (day) => (day === 29 ? 1_000 : 5));
    const last = told.length - 1;
    expect(told.volatilityBefore(last)).toBeLessThan(12);
    expect(told.volatilityBefore(last + 1)).toBeGreaterThan(told.volatilityBefore(last));
    expect(told.moment(last).told.to - told.moment(last).told.from).toBe(DAY);
  });
});
