import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { AlertEvent, AlertTerms, Place } from "#core/alerts/alert";
import { bandsOfMark } from "#core/alerts/place";
import { sayAlert, sayFiring } from "#core/alerts/say";
import { alertWatcher, keyOf } from "#core/alerts/watcher";
import { followMark } from "#core/marks/follow";
import { asInstant } from "#core/observe/instant";
import { watch } from "#core/observe/watcher";
import { slice, type Series } from "#core/series/series";
import { contextOf, day, mark, market } from "#core/testing/marks";
import { days, sp500, walk } from "#core/testing/openData";
import { allHours, layer, momentsOf } from "#core/testing/told";

const DAY = 86_400_000;
const base = { again: true, note: "" };
const place = (bottom: number, top = bottom, leave = 0): Place => ({ bottom, top, name: "zone", leave });
const bandsAt = (at: Place) => () => [{ bottom: at.bottom, top: at.top, name: at.name }];

/**
 * Everything an alert says over a series, shown in parts that end at the given bars; between parts its state is written
 * out and read again, and its rungs are made anew.
 */
function fired(terms: AlertTerms, series: Series, cuts: readonly number[] = []): (AlertEvent & { says: string })[] {
  const bands = "at" in terms ? bandsAt(terms.at) : () => [];
  const watcher = alertWatcher(terms, bands, asInstant(series.time[0] + DAY));
  let state = watcher.start;
  let through = -Infinity;
  const out: AlertEvent[] = [];
  for (const cut of [...cuts, series.length - 1]) {
    const moments = momentsOf([layer("P1D", slice(series, 0, cut + 1))], watcher.needs, allHours, market.tick, 2);
    const step = watch(
      watcher,
      state,
      moments.filter(({ told }) => told.from >= through),
    );
    out.push(...step.events);
    state = JSON.parse(JSON.stringify(step.state)) as typeof state;
    through = Math.max(through, series.time[cut] + DAY);
  }
  return out.map((event) => ({ ...event, says: sayFiring(terms, event, market) }));
}
const daysOf = (firings: readonly AlertEvent[]) => firings.map(({ knownAt }) => (knownAt - day(0)) / DAY - 1);

describe("an alert at a place", () => {
  const reach = (at: Place): AlertTerms => ({ on: "reach", at, ...base });
  it("fires when a wick arrives, and again only after price was gone by as much as was asked", () => {
    const series = days(
      [100, 101, 99, 100],
      [100, 105, 100, 104],
      [104, 106, 103, 104],
      [104, 104.5, 102.5, 103],
      [103, 105, 102, 104],
      [101, 102, 100, 101],
      [101, 105, 101, 104],
    );
    expect(daysOf(fired(reach(place(105)), series))).toEqual([1, 4, 6]);
    expect(daysOf(fired(reach(place(105, 105, 3)), series))).toEqual([1, 6]);
    expect(daysOf(fired(reach(place(105, 105, 3.5)), series))).toEqual([1]);
    expect(fired(reach(place(105)), series)[0].says).toBe("Reached zone 105.00.");
  });
  it("fires when price jumps across without a bar that meets it", () => {
    const series = days([100, 101, 99, 100], [100, 101, 99, 100.5], [108, 109, 107, 108]);
    expect(fired(reach(place(103, 105)), series).map(({ says }) => says)).toEqual([
      "Jumped across zone 103.00 to 105.00.",
    ]);
  });
  it("fires at a close on the other side, not at a wick, and not while price closes inside", () => {
    const terms: AlertTerms = { on: "beyond", rung: "P1D", at: place(103, 105), ...base };
    const series = days(
      [100, 101, 99, 100],
      [100, 107, 100, 102],
      [102, 106, 102, 104],
      [104, 107, 104, 105.5],
      [105, 106, 103, 104],
      [104, 105, 101, 102],
    );
    expect(fired(terms, series).map(({ says }) => says)).toEqual([
      "Day closed above zone 103.00 to 105.00, at 105.50.",
      "Day closed below zone 103.00 to 105.00, at 102.00.",
    ]);
  });
  it("fires at an indecision or engulfing candle that reaches it, as it was asked", () => {
    const series = days([100, 101, 99, 100.9], [100.5, 105, 97, 101], [101, 101.5, 96, 96.5], [96.5, 96.6, 90, 90]);
    const at = place(105);
    expect(fired({ on: "candle", rung: "P1D", at, candle: "either", ...base }, series).map(({ says }) => says)).toEqual(
      ["Indecision candle on Day at zone 105.00."],
    );
    expect(fired({ on: "candle", rung: "P1D", at, candle: "engulfing", ...base }, series)).toEqual([]);
    expect(
      fired({ on: "candle", rung: "P1D", at: place(101.2), candle: "engulfing", ...base }, series).map(
        ({ says }) => says,
      ),
    ).toEqual(["Engulfing down candle on Day at zone 101.20."]);
  });
});

describe("an alert on a mark", () => {
  it("on a line waits at its value at each bar, straight in bars like the line that is drawn", () => {
    const series = days(
      [100, 101, 99, 100],
      [100, 102, 99, 101],
      [101, 103, 100, 102],
      [102, 104, 101, 103],
      [103, 105, 102, 104],
    );
    const line = mark("trendLine", [
      [0, 90],
      [1, 92],
    ]);
    const at = bandsOfMark(line, contextOf(series));
    expect([1, 2, 3, 4].map((n) => at(day(n))[0].bottom)).toEqual([92, 94, 96, 98]);
    // What the line itself says at its last bar.
    const life = followMark(line, contextOf(series));
    expect((life.state as { bars: number }).bars).toBe(3);
  });
  it("on a channel waits at both lines, on a zone at the zone; what ends a count is no place", () => {
    const series = days([100, 101, 99, 100], [100, 102, 99, 101], [101, 103, 100, 102], [102, 104, 101, 103]);
    expect(
      bandsOfMark(
        mark("channel", [
          [0, 90],
          [1, 91],
          [1, 95],
        ]),
        contextOf(series),
      )(day(3)).map(({ bottom }) => bottom),
    ).toEqual([93, 97]);
    expect(
      bandsOfMark(
        mark(
          "zone",
          [
            [0, 101],
            [0, 99],
          ],
          { side: "demand", own: true },
        ),
        contextOf(series),
      )(day(3)),
    ).toMatchObject([{ bottom: 99, top: 101 }]);
  });
});

describe("alerts of a rung", () => {
  it("tell each close, and each shift of structure with its direction", () => {
    const series = sp500();
    const part = slice(series, 0, 400);
    expect(fired({ on: "close", rung: "P1D", ...base }, part)).toHaveLength(399);
    const either = fired({ on: "shift", rung: "P1D", direction: "either", ...base }, part);
    const ups = fired({ on: "shift", rung: "P1D", direction: "up", ...base }, part);
    expect(either.length).toBeGreaterThan(4);
    expect(ups.length).toBe(either.filter(({ says }) => says.includes(" up on")).length);
    for (const { says } of either)
      expect(says).toMatch(/^Structure shifted (up|down) on Day: closed beyond \d+\.\d\d\.$/);
  });
});

describe("every alert", () => {
  const at = place(100, 101, 1);
  const all: AlertTerms[] = [
    { on: "reach", at, ...base },
    { on: "beyond", rung: "P1D", at, ...base },
    { on: "candle", rung: "P1D", at, candle: "either", ...base },
    { on: "shift", rung: "P1D", direction: "either", ...base },
    { on: "close", rung: "P1D", ...base },
  ];
  const steps = fc.array(
    fc.tuple(fc.integer({ min: -4, max: 4 }), fc.integer({ min: 0, max: 2 }), fc.integer({ min: 0, max: 2 })),
    { minLength: 3, maxLength: 60 },
  );
  it("fires the same whether bars come one by one, in parts or all at once, and no event twice", () => {
    fc.assert(
      fc.property(steps, fc.array(fc.nat(59), { maxLength: 6 }), (drawn, cut) => {
        const series = walk(drawn);
        const cuts = [...new Set(cut.map((n) => n % series.length))].sort((a, b) => a - b);
        for (const terms of all) {
          const whole = fired(terms, series);
          expect(fired(terms, series, cuts)).toEqual(whole);
          expect(
            fired(
              terms,
              series,
              Array.from({ length: series.length - 1 }, (_, i) => i),
            ),
          ).toEqual(whole);
          expect(new Set(whole.map(keyOf)).size).toBe(whole.length);
        }
      }),
      { numRuns: 60 },
    );
  });
  it("that is not to fire again ends with the first event, and has eyes for nothing after it", () => {
    const series = days([100, 101, 99, 100], [100, 105, 100, 101], [101, 102, 100, 101], [101, 105, 101, 104]);
    const once: AlertTerms = { on: "reach", at: place(105), again: false, note: "" };
    expect(daysOf(fired(once, series))).toEqual([1]);
    expect(daysOf(fired(once, series, [1, 2]))).toEqual([1]);
  });
  it(
    "arrivals are those of a plain reading: the bar meets the band, the one before did not, on open data " +
      "(S&P 500, vega-datasets)",
    () => {
      const series = slice(sp500(), 0, 600);
      const level = place(1400, 1400);
      const plain: number[] = [];
      for (let i = 1; i < series.length; i++) {
        const meets = (n: number) => series.low[n] <= 1400 && series.high[n] >= 1400;
        const across =
          (series.low[i] > 1400 && series.close[i - 1] < 1400) || (series.high[i] < 1400 && series.close[i - 1] > 1400);
        // A bar that meets it counts when the bar before was wholly off it.
        if ((meets(i) && (i === 1 || !meets(i - 1))) || across) plain.push(i);
      }
      expect(daysOf(fired({ on: "reach", at: level, ...base }, series)).length).toBe(plain.length);
      expect(fired({ on: "reach", at: level, ...base }, series).map((firing) => firing.knownAt)).toEqual(
        plain.map((i) => series.time[i] + DAY),
      );
    },
  );
  it("says what it waits for in one sentence", () => {
    expect(all.map((terms) => sayAlert(terms, market))).toEqual([
      "Price reaches zone 100.00 to 101.00.",
      "A Day candle closes beyond zone 100.00 to 101.00.",
      "An indecision or engulfing candle on Day at zone 100.00 to 101.00.",
      "Structure shifts on Day.",
      "A Day candle closes.",
    ]);
  });
});
