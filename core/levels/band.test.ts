import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { advanceBand, FRESH, type Band, type BandEvent, type BandState } from "#core/levels/band";
import { barAt, type Series } from "#core/series/series";
import { days, walk } from "#core/testing/openData";

const demand: Band = { side: "demand", bottom: 100, top: 102, leave: 2 };

function follow(band: Band, series: Series): { state: BandState; events: string[] } {
  const events: BandEvent[] = [];
  let state = FRESH;
  for (let i = 0; i < series.length; i++)
    state = advanceBand(band, state, barAt(series, i), (event) => events.push(event));
  return { state, events: events.map(({ event, touches }) => `${event} ${touches}`) };
}

const departure: [number, number, number, number] = [102, 106, 102, 105];

// The statements are facts of the trade: common practice, no source.
describe("the life of a demand zone", () => {
  it("is pending until a close leaves it, then fresh", () => {
    expect(follow(demand, days([101, 103, 100, 101])).state.status).toBe("pending");
    expect(follow(demand, days(departure)).state.status).toBe("fresh");
  });
  it("a wick that reaches the near edge is a touch, with its depth", () => {
    const { state, events } = follow(demand, days(departure, [105, 105, 101.5, 103]));
    expect(events).toEqual(["touched 1"]);
    expect(state).toMatchObject({ status: "touched", deepest: 0.25 });
  });
  it("one stay is one touch, however many bars it lasts", () => {
    expect(
      follow(demand, days(departure, [105, 105, 101.5, 103], [103, 103, 101, 102.5], [102, 103, 101.5, 103])).state
        .touches,
    ).toBe(1);
  });
  it("after leaving by its height the next contact is a new touch", () => {
    const { events } = follow(
      demand,
      days(departure, [105, 105, 101.9, 103], [103, 104, 103, 104], [104, 104, 101.9, 103]),
    );
    expect(events).toEqual(["touched 1", "left 1", "touched 2"]);
  });
  it("half worked through, it is spent once price has left", () => {
    const { events, state } = follow(demand, days(departure, [105, 105, 101, 103], [103, 104.5, 103, 104]));
    expect(events).toEqual(["touched 1", "left 1", "spent 1"]);
    expect(state.status).toBe("spent");
  });
  it("touched three times, it is spent", () => {
    const again: [number, number, number, number][] = [
      [105, 105, 101.9, 103],
      [103, 105, 103, 105],
    ];
    const { state } = follow(demand, days(departure, ...again, ...again, ...again));
    expect(state).toMatchObject({ status: "spent", touches: 3 });
  });
  it("a wick through it with a close back inside sweeps it; a close beyond breaks it", () => {
    expect(follow(demand, days(departure, [105, 105, 99, 101])).events).toEqual(["touched 1", "swept 1"]);
    expect(follow(demand, days(departure, [105, 105, 99, 99.5])).state.status).toBe("broken");
    expect(follow(demand, days(departure, [105, 105, 99, 100])).state.status).toBe("touched");
  });
  it("broken and respected from below, it is flipped", () => {
    const { state } = follow(
      demand,
      days(departure, [105, 105, 99, 99], [99, 99, 97, 98], [98, 100.5, 97.5, 98.5], [98, 98, 96, 96]),
    );
    expect(state.status).toBe("flipped");
  });
});

describe("laws of a band", () => {
  const steps = fc.array(
    fc.tuple(fc.integer({ min: -8, max: 8 }), fc.integer({ min: 0, max: 4 }), fc.integer({ min: 0, max: 4 })),
    { maxLength: 80 },
  );
  it("turned upside down demand is supply", () => {
    fc.assert(
      fc.property(steps, (drawn) => {
        const series = walk(drawn, 104);
        const mirror = (values: Float64Array) => values.map((value) => 1000 - value);
        const turned = {
          ...series,
          open: mirror(series.open),
          close: mirror(series.close),
          high: mirror(series.low),
          low: mirror(series.high),
        };
        const supply: Band = { side: "supply", bottom: 898, top: 900, leave: 2 };
        expect(follow(supply, turned).events).toEqual(follow(demand, series).events);
      }),
    );
  });
  it("a step of nothing returns the very same state, so a quiet bar costs nothing", () => {
    const quiet = barAt(days([200, 201, 199, 200]), 0);
    const state: BandState = { ...FRESH, status: "fresh", away: true };
    expect(advanceBand(demand, state, quiet, () => {})).toBe(state);
  });
});
