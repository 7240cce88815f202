import { describe, expect, it } from "vitest";
import { ConditionFault } from "#core/conditions/fields";
import { asInstant } from "#core/observe/instant";
import { followTerms, type Followed } from "#core/scenarios/follow";
import { readWholeTerms } from "#core/scenarios/readLegs";
import { allHours, layer, rows } from "#core/testing/told";

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const START = Date.UTC(2024, 0, 1);
type Row = [open: number, high: number, low: number, close: number];
const hourly = (bars: readonly Row[], step = HOUR) =>
  rows(...bars.map((bar, i) => [START + i * step, ...bar] as never));

const common = { direction: "long", wrong: 80, expires: START + 500 * HOUR };
const order = { entry: { order: "limit", price: 97 }, stop: 95, targets: [{ price: 105, share: 1 }] };

function follow(scenario: object, bars: readonly Row[], also: Record<string, readonly Row[]> = {}): Followed {
  const told = (of: readonly Row[]) => ({ layers: [layer("PT1H", hourly(of))], calendar: allHours, k: 1 });
  const others = Object.entries(also).map(([name, of]) => [name, { ...told(of), tick: 0.1 }]);
  return followTerms(
    readWholeTerms({ ...common, ...order, ...scenario }, Number),
    { since: asInstant(START), tick: 0.1, zone: "UTC" },
    { ...told(bars), also: Object.fromEntries(others) as never },
  );
}
const names = ({ events }: Followed) => events.map(({ event, leg }) => (leg ? `${event} ${leg}` : event));
const fault = (scenario: object) => {
  try {
    readWholeTerms({ ...common, ...order, ...scenario }, Number);
  } catch (error) {
    if (error instanceof ConditionFault) return error.message;
    throw error;
  }
  return "";
};

describe("a price that is bound by a step", () => {
  const swept: Row[] = [
    [100, 101, 99, 100],
    [100, 100.5, 97.4, 98.6],
    [98.6, 99.5, 98.2, 99.4],
    [99.4, 101, 99, 100.8],
  ];
  const sweep = { when: { on: "sweep", side: "low", price: 98, rung: "PT1H" } };
  it("takes the extreme of a sweep, ticks counted in the direction of the trade", () => {
    const { events, bound } = follow(
      {
        if: [sweep],
        entry: { order: "stop", price: { bind: "barHigh", step: 1, ticks: 1 } },
        stop: { bind: "sweptExtreme", step: 1, ticks: -2 },
      },
      swept,
    );
    // The sweep is known at the end of the second hour; its high is 100.5, its extreme 97.4.
    expect(bound).toEqual({
      "entry.price": { price: expect.closeTo(100.6, 9) as number, knownAt: START + 2 * HOUR },
      stop: { price: expect.closeTo(97.2, 9) as number, knownAt: START + 2 * HOUR },
    });
    expect(events.map(({ event, price }) => [event, price])).toEqual([
      ["triggered", 98.6],
      ["entered", expect.closeTo(100.6, 9)],
    ]);
  });
  it("of a short counts ticks downwards", () => {
    const { bound } = follow(
      {
        direction: "short",
        wrong: 120,
        if: [{ when: { on: "sweep", side: "high", price: 100.2, rung: "PT1H" } }],
        entry: { order: "market" },
        stop: { bind: "sweptExtreme", step: 1, ticks: -3 },
        targets: [{ price: 90, share: 1 }],
      },
      swept,
    );
    expect(bound.stop.price).toBeCloseTo(101.3, 9);
  });
  it("that its step has not left gives the scenario up, and says which price", () => {
    const { events } = follow({ if: [sweep], stop: { bind: "gapFar", step: 1 } }, swept);
    expect(events.at(-1)).toMatchObject({ event: "cancelled", reason: "bind", field: "stop" });
  });
  it("is not taken when its reward is below what is asked for", () => {
    const asked = { if: [sweep], entry: { order: "market" }, stop: { bind: "sweptExtreme", step: 1 }, leastReward: 6 };
    // At the close of 98.6 the risk is 1.2 and the reward 6.4: 5.33 R.
    expect(names(follow(asked, swept))).toEqual(["triggered", "passed"]);
    expect(names(follow({ ...asked, leastReward: 5.3 }, swept))).toEqual(["triggered", "entered"]);
  });
  it("whose stop would lie beyond its entry is given up", () => {
    const { events } = follow({ if: [sweep], stop: { bind: "barHigh", step: 1 } }, swept);
    expect(events.at(-1)).toMatchObject({ event: "cancelled", reason: "geometry" });
  });
  it("as the price that proves it wrong holds from its step on, before the trigger", () => {
    const steps = [sweep, { when: { on: "close", side: "above", price: 104, rung: "PT1H" } }];
    const asked = { if: steps, wrong: { bind: "sweptExtreme", step: 1 } };
    expect(names(follow(asked, [...swept.slice(0, 3), [99.4, 99.5, 97.3, 99]]))).toEqual(["step", "invalid"]);
  });
});

describe("what a shift leaves", () => {
  /** Down to 90, then up in one move whose second bar leaves a gap from 93 to 94, and closes beyond the high of 95. */
  const move: Row[] = [
    [100, 101, 99, 100],
    [100, 100.5, 96, 96.5],
    [96.5, 97, 93, 94],
    [94, 95, 93.5, 94.5],
    [94.5, 94.6, 91, 91.5],
    [91.5, 92, 90, 91],
    [91, 93, 90.8, 92.9],
    [92.9, 95.5, 92.8, 95.3],
    [95.3, 96.5, 94, 96.2],
    [96.2, 97.2, 96, 97.1],
  ];
  const shift = { when: { on: "shift", direction: "up", rung: "PT1H" } };
  const bound = (bind: string, more: object = {}) =>
    follow(
      {
        if: [shift],
        entry: { order: "limit", price: { bind, step: 1, ...more } },
        stop: 80.5,
        targets: [{ price: 200, share: 1 }],
      },
      move,
    );
  it("is the gap of its move, the swing it broke, the one it came from, and the middle of its leg", () => {
    const { events } = bound("brokenSwing");
    const at = events.find(({ event }) => event === "triggered");
    expect(at).toBeDefined();
    const prices = Object.fromEntries(
      ["gapNear", "gapFar", "gapMiddle", "brokenSwing", "swing", "midOfLeg"].map((bind) => [
        bind,
        bound(bind).bound["entry.price"]?.price,
      ]),
    );
    // Known with the eighth bar, whose low of 92.8 leaves a gap over the sixth one's high of 92.
    const high = 95.5;
    expect(at?.at).toBe(START + 7 * HOUR);
    expect(prices).toEqual({
      gapNear: 92.8,
      gapFar: 92,
      gapMiddle: expect.closeTo(92.4, 9) as number,
      brokenSwing: 95,
      swing: 90,
      midOfLeg: (90 + high) / 2,
    });
    // A quarter of the way back from its end.
    expect(bound("midOfLeg", { ratio: 0.25 }).bound["entry.price"].price).toBeCloseTo(high - (high - 90) / 4, 9);
  });
  it("the last gap of a move is the one that counts, its near edge where price comes back to", () => {
    const wide: Row[] = [...move.slice(0, 6), [91, 93, 90.8, 92.9], [92.9, 94.5, 92.8, 94.4], [94.4, 97, 94, 96.8]];
    const { bound: found } = follow(
      {
        if: [shift],
        entry: { order: "limit", price: { bind: "gapNear", step: 1 } },
        stop: { bind: "gapFar", step: 1, ticks: -1 },
        targets: [{ price: 200, share: 1 }],
      },
      wide,
    );
    // Third candle 94 over the first one's 93: the gap stands from 93 to 94.
    expect(found["entry.price"].price).toBe(94);
    expect(found.stop.price).toBeCloseTo(92.9, 9);
  });
});

describe("a sloping line", () => {
  const flat = (close: number): Row => [close, close + 0.5, close - 0.5, close];
  const line = {
    line: [
      { time: START, price: 100 },
      { time: START + 2 * HOUR, price: 102 },
    ],
    rung: "PT1H",
  };
  it("is straight over bars and past its last anchor; missing bars take no room", () => {
    const closes = [99, 99, 99, 102.9, 103.9, 105.1];
    const asked = { if: [{ when: { on: "close", side: "above", price: line, rung: "PT1H" } }] };
    // At the fourth to the sixth bar the line stands at 103, 104 and 105.
    expect(follow(asked, closes.map(flat)).events[0]).toMatchObject({ event: "triggered", at: START + 5 * HOUR });
    // The same closes with a day missing after the third bar.
    const gapped = rows(...closes.map((close, i) => [START + i * HOUR + (i > 2 ? DAY : 0), ...flat(close)] as never));
    const { events } = followTerms(
      readWholeTerms({ ...common, ...order, ...asked }, Number),
      { since: asInstant(START), tick: 0.1, zone: "UTC" },
      { layers: [layer("PT1H", gapped)], calendar: allHours, k: 1 },
    );
    expect(events[0]).toMatchObject({ event: "triggered", at: START + 5 * HOUR + DAY });
  });
  it("moves a resting order from bar to bar, its planned risk staying what it was", () => {
    const bars: Row[] = [...[104, 104, 106].map(flat), [106, 106.5, 103.5, 104], [105, 106, 103.9, 104.5]];
    const { events, result } = follow(
      {
        if: [{ when: { on: "close", side: "above", price: 105.9, rung: "PT1H" } }],
        entry: { order: "limit", price: line },
        stop: 99,
        targets: [{ price: 120, share: 1 }],
      },
      bars,
    );
    // Triggered at the third close, when the line stands at 102, three above the stop; met on the fifth bar, at 104.
    expect(events.map(({ event, at, price }) => [event, (at - START) / HOUR, price])).toEqual([
      ["triggered", 2, 106],
      ["entered", 4, 104],
    ]);
    expect(result.r).toBeCloseTo((104.5 - 104) / 3, 9);
  });
  it("of which an anchor lies ahead says nothing", () => {
    const ahead = { ...line, line: [line.line[0], { time: START + 90 * HOUR, price: 101 }] };
    const asked = { if: [{ when: { on: "close", side: "above", price: ahead, rung: "PT1H" } }] };
    expect(names(follow(asked, [200, 200, 200].map(flat)))).toEqual([]);
  });
  it("as a stop follows until it is moved to the fill", () => {
    const asked = {
      if: [{ when: { on: "close", side: "above", price: 105, rung: "PT1H" } }],
      entry: { order: "market" },
      stop: line,
      targets: [{ price: 130, share: 1 }],
    };
    const bars: Row[] = [flat(104), flat(104), flat(106), flat(106), flat(106), [106, 106.2, 104.9, 105]];
    const { events } = follow(asked, bars);
    expect(events.map(({ event, price }) => [event, price])).toEqual([
      ["triggered", 106],
      ["entered", 106],
      ["stopped", 105],
    ]);
  });
});

describe("conditions on what came before, on averages and on other markets", () => {
  const bar = (close: number): Row => [close, close + 1, close - 1, close];
  const after = (when: object) => ({ if: [{ when: { on: "touch", price: 100 } }, { when }] });
  it("beyondBar: a close beyond the extreme of the bar of a step", () => {
    const asked = after({ on: "beyondBar", of: 1, side: "above" });
    const { events } = follow(asked, [bar(100), bar(100.9), bar(101), bar(101.1)]);
    expect(events.map(({ event, at }) => [event, (at - START) / HOUR])).toEqual([
      ["step", 0],
      ["triggered", 3],
    ]);
  });
  it("average: not known before it has its bars, then a close strictly on its side", () => {
    const asked = {
      if: [{ when: { on: "average", of: { quantity: "sma", period: 3 }, side: "above", rung: "PT1H" } }],
    };
    // The means of three are 11, 12 and 12.
    const { events } = follow({ ...asked, wrong: 1, stop: 2 }, [bar(10), bar(12), bar(11), bar(13), bar(12)]);
    expect(events[0]).toMatchObject({ event: "triggered", at: START + 3 * HOUR });
  });
  it("market: by the other's bars that are known by then", () => {
    const asked = {
      if: [{ when: { on: "market", market: "Tin", when: { on: "close", side: "above", price: 50, rung: "PT1H" } } }],
    };
    const here = [bar(100), bar(100), bar(100), bar(100)];
    const { events } = follow(asked, here, { Tin: [bar(49), bar(49.9), bar(51), bar(51)] });
    expect(events[0]).toMatchObject({ event: "triggered", at: START + 2 * HOUR, price: 100 });
    expect(() => follow(asked, here)).toThrow(/no bars of "Tin"/);
  });
  it.each([
    ["a step that is not there", { stop: { bind: "barLow", step: 1 } }, /speaks of step 1; there are 0/],
    ["a later step", after({ on: "beyondBar", of: 2, side: "above" }), /"scenario\.if\[1\]" speaks of step 2/],
    ["a step in while", { while: [{ on: "beyondBar", of: 1, side: "above" }] }, /"scenario\.while" speaks of a step/],
    ["anchors in one place", { stop: { line: [START, START].map((time) => ({ time, price: 1 })) } }, /second anchor/],
    ["no such bind", { stop: { bind: "moon", step: 1 } }, /"scenario\.stop\.bind" must be/],
    ["an average of nothing", after({ on: "average", of: { quantity: "sma" }, side: "above" }), /period/],
  ])("%s is a fault at its field", (_what, scenario, says) => expect(fault(scenario)).toMatch(says));
});

describe("several legs", () => {
  const leg = (price: number, risk: number, more: object = {}) => ({
    entry: { order: "limit", price },
    stop: 95,
    targets: [{ price: 105, share: 1 }],
    risk,
    ...more,
  });
  const legs = (...of: object[]) => ({ legs: of, entry: undefined, stop: undefined, targets: undefined });
  const bars: Row[] = [
    [101, 101, 99, 100],
    [100, 100, 97, 98],
    [98, 106, 97.5, 105.5],
  ];
  it("halves of one risk make what the whole makes", () => {
    const one = follow(legs(leg(100, 1)), bars);
    const two = follow(legs(leg(100, 0.5), leg(100, 0.5)), bars);
    const plain = follow(
      { entry: { order: "limit", price: 100 }, stop: 95, targets: [{ price: 105, share: 1 }] },
      bars,
    );
    expect(two.result).toEqual(plain.result);
    expect(one.result).toEqual(plain.result);
    expect(names(two)).toEqual(plain.events.flatMap(({ event }) => [`${event} 1`, `${event} 2`]).sort(byBar(two)));
  });
  it("a second level adds its own R by its share", () => {
    const { result, events } = follow(legs(leg(100, 0.5), leg(98, 0.5)), bars);
    // One from 100 with a risk of 5, one from 98 with a risk of 3, both to 105.
    expect(result.r).toBeCloseTo(0.5 * (5 / 5) + 0.5 * (7 / 3), 9);
    expect(events.filter(({ event }) => event === "entered").map(({ price, leg: n }) => [price, n])).toEqual([
      [100, 1],
      [98, 2],
    ]);
  });
  it("an addition begins when the probe has been entered, on the bars after", () => {
    const addition = leg(98.5, 0.5, { after: { leg: 1, event: "entered" } });
    const { events } = follow(legs(leg(100, 0.5), addition), bars);
    expect(events.filter(({ event }) => event === "entered").map(({ at, leg: n }) => [(at - START) / HOUR, n])).toEqual(
      [
        [0, 1],
        [1, 2],
      ],
    );
  });
  it("what waits for a stop that never comes is given up with it, and with it what waits for that", () => {
    const again = leg(99, 0.25, { after: { leg: 1, event: "stopped" } });
    const third = leg(99, 0.25, { after: { leg: 2, event: "entered" } });
    const { events, result } = follow(legs(leg(100, 0.5), again, third), bars);
    expect(events.filter(({ event }) => event === "cancelled")).toMatchObject([
      { leg: 2, reason: "leg" },
      { leg: 3, reason: "leg" },
    ]);
    expect(result.state).toBe("done");
  });
  it.each([
    ["risks that do not sum to 1", [leg(100, 0.5)], /risks of "scenario\.legs" sum to 0\.5/],
    [
      "one that waits for itself",
      [leg(100, 0.5), leg(99, 0.5, { after: { leg: 2, event: "entered" } })],
      /another leg/,
    ],
    ["one that waits for none", [leg(100, 0.5), leg(99, 0.5, { after: { leg: 7, event: "entered" } })], /another leg/],
    ["no share of the risk", [{ ...leg(100, 1), risk: 0 }], /risk/],
  ])("%s is a fault", (_what, of, says) => expect(fault(legs(...of))).toMatch(says));
});

function byBar({ events }: Followed) {
  const order = events.map(({ event, leg }) => `${event} ${leg}`);
  return (a: string, b: string) => order.indexOf(a) - order.indexOf(b);
}

describe("prices that are rules", () => {
  /** Two days of six bars of four hours; the second day goes below the first one's low and comes back. */
  const swept: Row[] = [
    [100, 102, 99, 101],
    [101, 103, 100, 102],
    [102, 102.5, 98, 99],
    [99, 100, 98.5, 99.5],
    [99.5, 101, 99, 100],
    [100, 101, 99.5, 100.5],
    [100.5, 101, 99, 99.5],
    [99.5, 100, 97.4, 98.6],
    [98.6, 100.2, 98.4, 100],
    [100, 104.5, 99.9, 104],
  ];
  const of4h = (scenario: object) => {
    const told = { layers: [layer("PT4H", hourly(swept, 4 * HOUR))], calendar: allHours, k: 1 };
    const terms = readWholeTerms({ ...common, ...order, ...scenario }, Number);
    return followTerms(terms, { since: asInstant(START), tick: 0.1, zone: "UTC" }, told);
  };
  const sweep = {
    when: { on: "sweep", side: "low", price: { previous: "P1D", of: "low" }, rung: "PT4H" },
  };
  const rule = {
    if: [sweep],
    entry: { order: "market" },
    stop: { bind: "sweptExtreme", step: 1, ticks: -1 },
    targets: [{ price: { r: 2 }, share: 1 }],
  };
  it("the low of the day before is what that day's was; within its own day nothing is known of it", () => {
    const { events, bound } = of4h(rule);
    // The first day's low is 98: swept by 97.4, known with the close of 98.6 at 8:00 of the second day.
    expect(events[0]).toMatchObject({ event: "triggered", price: 98.6, knownAt: START + DAY + 8 * HOUR });
    // At the next open the close stands for the entry: 98.6 and 97.3, twice 1.3 away.
    expect(bound).toMatchObject({
      stop: { price: expect.closeTo(97.3, 9) as number },
      "targets[0].price": { price: expect.closeTo(101.2, 9) as number, knownAt: START + DAY + 8 * HOUR },
    });
    expect(events.map(({ event }) => event)).toEqual(["triggered", "entered", "target", "completed"]);
  });
  it("what a step was about can be bound: the level that was swept", () => {
    const { bound } = of4h({ ...rule, entry: { order: "limit", price: { bind: "level", step: 1, ticks: 2 } } });
    expect(bound["entry.price"].price).toBeCloseTo(98.2, 9);
    expect(bound["targets[0].price"].price).toBeCloseTo(98.2 + 2 * (98.2 - 97.3), 9);
  });
  it("a target may be the high of the day before as its last step is met; behind the entry it is none", () => {
    const aims = (side: string) => of4h({ ...rule, targets: [{ price: { previous: "P1D", of: side }, share: 1 }] });
    const { bound } = aims("high");
    expect(bound["targets[0].price"]).toEqual({ price: 103, knownAt: START + DAY + 8 * HOUR });
    const behind = aims("low");
    expect(behind.events.at(-1)).toMatchObject({ event: "cancelled", reason: "bind" });
    expect(fault({ targets: [{ price: { previous: "P1D", of: "high" }, share: 1 }] })).toMatch(/there are no steps/);
  });
  it("is refused where it cannot be: as a stop, as an entry, as a reward without a step or below nothing", () => {
    expect(fault({ stop: { previous: "P1D", of: "low" } })).toMatch(/bind/);
    expect(fault({ entry: { order: "limit", price: { r: 2 } } })).toMatch(/bind/);
    expect(fault({ targets: [{ price: { r: 2 }, share: 1 }] })).toMatch(/there are no steps/);
    expect(fault({ ...rule, targets: [{ price: { r: -2 }, share: 1 }] })).toMatch(/above 0/);
    expect(fault({ if: [{ when: { on: "touch", price: { previous: "day", of: "low" } } }] })).toMatch(/ISO 8601/);
  });
});
