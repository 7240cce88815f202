import { mean, sampleStandardDeviation } from "simple-statistics";
import { describe, expect, it } from "vitest";
import { calibrationOf } from "#core/record/calibration";
import { recordOf, type Outcome } from "#core/record/statistics";
import { drawsOf } from "#core/statistics/intervals";

const day = (n: number) => Date.UTC(2024, 0, 1 + n);
const trade = (r: number, end: number, more: Partial<Outcome> = {}): Outcome => ({
  ...{ triggered: true, ambiguous: false, at: day(0), end: day(end), r },
  ...more,
});
const passed: Outcome = { triggered: false, ambiguous: false, at: day(0) };
const asked = { event: "triggered", seed: 1 } as const;

// Worked by hand.
describe("figures of a record", () => {
  it("counts, shares, gains to losses, the curve in the order trades ended", () => {
    const list = [trade(-1, 3), passed, trade(2, 1), trade(-1, 4, { ambiguous: true }), trade(0, 5), passed];
    const { curve, hitInterval, interval, calibration, ...rest } = recordOf(list, asked);
    expect(rest).toEqual({
      ...{ stated: 6, neverTriggered: 2 / 6, n: 4, hits: 1, hitRate: 0.25, mean: 0, median: -0.5 },
      ...{ deviation: Math.SQRT2, profitFactor: 1, ambiguous: 0.25, drawdown: 2, losingRun: 2 },
    });
    expect(curve.map(({ time, r }) => [time, r])).toEqual([
      [day(1), 2],
      [day(3), 1],
      [day(4), 0],
      [day(5), 0],
    ]);
    // E. B. Wilson (1927): 1 of 4.
    expect(hitInterval![0]).toBeCloseTo(0.0456, 4);
    expect(hitInterval![1]).toBeCloseTo(0.6994, 4);
    expect(interval![0]).toBeLessThan(0);
    expect(calibration).toBeUndefined();
  });
  it("of nothing there are counts of 0 and no shares", () => {
    expect(recordOf([], asked)).toEqual({ stated: 0, n: 0, hits: 0, curve: [], drawdown: 0, losingRun: 0 });
    expect(recordOf([passed], asked)).toEqual({
      ...{ stated: 1, neverTriggered: 1, n: 0, hits: 0, curve: [], drawdown: 0, losingRun: 0 },
    });
  });
  it("a fall from the beginning is a drawdown; a result of 0 ends a run; no loss has no profit factor", () => {
    expect(recordOf([trade(-1, 1), trade(-2, 2)], asked)).toMatchObject({ drawdown: 3, losingRun: 2 });
    expect(recordOf([trade(-1, 1), trade(0, 2), trade(-1, 3)], asked).losingRun).toBe(1);
    expect(recordOf([trade(1, 1)], asked)).not.toHaveProperty("profitFactor");
    expect(recordOf([trade(1, 1)], asked)).not.toHaveProperty("deviation");
  });
  it("equal results have no spread and an interval of their own value", () =>
    expect(recordOf([trade(0.1, 1), trade(0.1, 2), trade(0.1, 3)], asked)).toMatchObject({
      ...{ mean: 0.1, deviation: 0, interval: [0.1, 0.1] },
    }));
  it("trades that end at one time stay as listed", () =>
    expect(recordOf([trade(2, 1), trade(-1, 1)], asked).drawdown).toBe(1));
});

describe("a planted record", () => {
  const draw = drawsOf(11);
  const share = () => (draw(2 ** 30) + 0.5) / 2 ** 30;
  /** Targets twice the risk away, hit two times in five: a mean of 0.2 R. */
  const list = (n: number) => Array.from({ length: n }, (_, i) => trade(share() < 0.4 ? 2 : -1, i));
  it("the interval of the mean covers the truth in 88 to 99 of a hundred lists of forty, z errors wide", () => {
    let covered = 0;
    for (let k = 0; k < 300; k++) {
      const trades = list(40);
      const { interval } = recordOf(trades, { event: "hit", seed: k + 1 });
      if (interval![0] <= 0.2 && interval![1] >= 0.2) covered++;
      if (k > 20) continue;
      const error = sampleStandardDeviation(trades.map(({ r }) => r!)) / Math.sqrt(40);
      expect((interval![1] - interval![0]) / 2 / (1.96 * error)).toBeGreaterThan(0.85);
      expect((interval![1] - interval![0]) / 2 / (1.96 * error)).toBeLessThan(1.15);
    }
    expect(covered / 300).toBeGreaterThan(0.88);
    expect(covered / 300).toBeLessThan(0.99);
  });
  it("later trades change nothing of the curve before them; the sum is the curve's end", () => {
    const trades = list(60);
    const whole = recordOf(trades, asked).curve;
    expect(recordOf(trades.slice(0, 30), asked).curve).toEqual(whole.slice(0, 30));
    expect(whole.at(-1)!.r).toBeCloseTo(
      trades.reduce((sum, { r }) => sum + r!, 0),
      9,
    );
  });
});

describe("calibration", () => {
  const draw = drawsOf(5);
  const share = () => (draw(2 ** 30) + 0.5) / 2 ** 30;
  // Brier (1950); Murphy (1973): worked by hand on four statements.
  it("the score and its parts", () => {
    const stated = [
      { weight: 0.9, happened: true },
      { weight: 0.9, happened: false },
      { weight: 0.1, happened: false },
      { weight: 0.1, happened: false },
    ];
    const found = calibrationOf(stated)!;
    expect(found).toMatchObject({ n: 4, base: 0.25, uncertainty: 0.1875 });
    expect(found.brier).toBeCloseTo((0.01 + 0.81 + 0.01 + 0.01) / 4, 12);
    expect(found.reliability).toBeCloseTo((2 * 0.16 + 2 * 0.01) / 4, 12);
    expect(found.resolution).toBeCloseTo((2 * 0.0625 + 2 * 0.0625) / 4, 12);
    expect(found.within).toBeCloseTo(0, 12);
    expect(found.skill).toBeCloseTo(1 - 0.21 / 0.1875, 12);
    expect(found.logScore).toBeCloseTo((-3 * Math.log(0.9) - Math.log(0.1)) / 4, 12);
    expect(found.bins).toEqual([
      { from: 0.1, n: 2, weight: 0.1, share: 0 },
      { from: 0.9, n: 2, weight: 0.9, share: 0.5 },
    ]);
  });
  it("a weight of 1 stands in the last tenth, one of 0.3 in its own", () =>
    expect(calibrationOf([1, 0.3].map((weight) => ({ weight, happened: true })))!.bins.map(({ from }) => from)).toEqual(
      [0.3, 0.9],
    ));
  it("certainty that was wrong costs much and not without end; where all happened there is no skill", () => {
    expect(calibrationOf([{ weight: 0, happened: true }])!.logScore).toBeCloseTo(-Math.log(1e-6), 9);
    expect(calibrationOf([{ weight: 0.5, happened: true }])).not.toHaveProperty("skill");
    expect(calibrationOf([])).toBeUndefined();
  });
  it("the parts add up on any list; honest weights are reliable, shuffled ones have no resolution", () => {
    const honest = Array.from({ length: 4_000 }, () => {
      const weight = share();
      return { weight, happened: share() < weight };
    });
    const { brier, reliability, resolution, uncertainty, within, skill } = calibrationOf(honest)!;
    expect(reliability - resolution + uncertainty + within).toBeCloseTo(brier, 12);
    expect(reliability).toBeLessThan(0.003);
    expect(skill).toBeGreaterThan(0.25);
    const blind = honest.map(({ weight }) => ({ weight, happened: share() < 0.5 }));
    expect(calibrationOf(blind)!.resolution).toBeLessThan(0.003);
    expect(calibrationOf(blind)!.skill!).toBeLessThan(0);
  });
  it("of hits only what was entered and has ended counts", () => {
    const list = [trade(1, 1, { weight: 0.6 }), { ...passed, weight: 0.9 }];
    expect(recordOf(list, asked).calibration).toMatchObject({ n: 2, base: 0.5 });
    expect(recordOf(list, { ...asked, event: "hit" }).calibration).toMatchObject({ n: 1, base: 1 });
    expect(mean([0.6, 0.9])).toBeCloseTo(0.75, 12);
  });
});
