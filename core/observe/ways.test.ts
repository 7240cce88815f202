import { describe, expect, it } from "vitest";
import { throughBar, arm, atOpen, type Orders, type Trade } from "#core/scenarios/trade";

const orders: Orders = {
  sign: 1,
  order: "market",
  entry: 101,
  stop: 99,
  targets: [
    { price: 103, share: 0.5 },
    { price: 105, share: 0.5 },
  ],
  breakEven: { after: "target" },
  cost: 0,
  through: 0,
  tolerance: 1e-6,
};
const opened = (change: Partial<Orders> = {}): Trade => {
  const { trade } = atOpen({ ...orders, ...change }, arm({ ...orders, ...change }), 101);
  return trade;
};
const bar = (open: number, high: number, low: number, close: number) => ({ open, high, low, close });
const said = ({ events }: { events: readonly { event: string; target?: number }[] }) =>
  events.map(({ event, target }) => (target ? `${event} ${target}` : event)).join(", ");

describe("the ways through a bar", () => {
  it("a break-even stop is surely met by a close beyond it, in whatever order high and low came", () => {
    const { counted, others } = throughBar(orders, opened(), bar(102, 103.5, 100, 100.5));
    expect(said(counted)).toBe("target 1, breakEven, stopped");
    expect(counted.trade.realised).toBeCloseTo(0.5, 12);
    expect(others).toEqual([]);
  });
  it("is open whether it was met when the bar closes above it again: the worst of both counts", () => {
    const { counted, others } = throughBar(orders, opened(), bar(102, 103.5, 100, 102.5));
    expect(said(counted)).toBe("target 1, breakEven, stopped");
    expect(others.map(said)).toEqual(["target 1, breakEven"]);
  });
  it("where the close lies below what a target paid, the way that never ended is worth less", () => {
    // Stopped at 99 is -1; reached first and then break-even is +0.5 and 0.
    const { counted, others } = throughBar(orders, opened(), bar(101, 103, 99, 100));
    expect(said(counted)).toBe("stopped");
    expect(others.map(said)).toEqual(["target 1, breakEven, stopped"]);
  });
  it("a stop within reach counts before a target within reach; out of reach the target is certain", () => {
    expect(said(throughBar(orders, opened(), bar(101, 106, 98, 104)).counted)).toBe("stopped");
    const sure = throughBar(orders, opened(), bar(101.5, 105.5, 101.2, 105.2));
    expect(said(sure.counted)).toBe("target 1, breakEven, target 2, completed");
    expect(sure.others).toEqual([]);
  });
  it("an order that fills within the bar is stopped on it when every way to the low passes both", () => {
    const limit: Orders = { ...orders, order: "limit", entry: 100, breakEven: null };
    const { counted, others } = throughBar(limit, arm(limit), bar(101, 104, 98.5, 103.5));
    expect(said(counted)).toBe("entered, stopped");
    // Down to the entry, up to the target and down to the stop is possible, too.
    expect(others.map(said)).toEqual(["entered, target 1, stopped"]);
  });
  it("wrong and filled on one bar: the lower value counts, and the furthest prices are those of every way", () => {
    const stop: Orders = { ...orders, order: "stop", entry: 102, wrong: 99.5, breakEven: null };
    const { counted, others } = throughBar(stop, arm(stop), bar(101, 102.5, 99.4, 102.4));
    expect(said(counted)).toBe("invalid");
    expect(others.map(said)).toEqual(["entered"]);
    const fills = throughBar({ ...stop, wrong: 99.4 }, arm(stop), bar(101, 102.5, 99.4, 102.4));
    expect([said(fills.counted), fills.others.length]).toEqual(["entered", 0]);
    // Its high lies beyond the entry and was surely passed; its low may have come before the fill.
    expect([fills.high, fills.low]).toEqual([102.5, 102]);
  });
  it("a price passed is not a price touched: `through` asks for more than the wick", () => {
    const shy: Orders = { ...orders, through: 0.1 };
    expect(said(throughBar(shy, opened(shy), bar(102, 103, 101.5, 102)).counted)).toBe("");
    expect(said(throughBar(shy, opened(shy), bar(102, 103.1, 101.5, 102)).counted)).toBe("target 1, breakEven");
  });
  it("at one price the target comes before break-even by R", () => {
    const one: Orders = { ...orders, breakEven: { r: 1 } };
    expect(said(throughBar(one, opened(one), bar(102, 103.2, 101.5, 103)).counted)).toBe("target 1, breakEven");
    const half: Orders = { ...orders, breakEven: { r: 0.5 } };
    expect(said(throughBar(half, opened(half), bar(101.5, 103.2, 101.2, 103)).counted)).toBe("breakEven, target 1");
  });
});

describe("what is known at the open", () => {
  it("a fill at or past the first target, or with less than a quarter of the risk left, is not taken", () => {
    const at = (open: number) => said(atOpen(orders, arm(orders), open));
    expect([at(101), at(103), at(99.49), at(99.5), at(99), at(98)]).toEqual([
      "entered",
      "missed",
      "missed",
      "entered",
      "invalid",
      "invalid",
    ]);
  });
  it("an order whose stop stands at its entry has nothing to be counted in, and is not taken", () => {
    const none: Orders = { ...orders, order: "limit", entry: 100, stop: 100 };
    expect(said(throughBar(none, arm(none), bar(101, 102, 99, 101)).counted)).toBe("missed");
  });
  it("a gap through the stop fills at the open; so do targets and break-even, nearest first", () => {
    expect(atOpen(orders, opened(), 97).events).toEqual([{ event: "stopped", price: 97, r: -2 }]);
    const { events, trade } = atOpen(orders, opened(), 104);
    expect(events).toEqual([
      { event: "target", price: 104, target: 1, r: 0.75 },
      { event: "breakEven", price: 101 },
    ]);
    expect(trade.stop).toBe(101);
  });
});
