import { mkdtempSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { SP500_FILE } from "#core/testing/openData";
import { compute } from "./compute.ts";

const folder = mkdtempSync("/tmp/compass-compute-");
function file(name: string, ...closes: number[]): { file: string } {
  const path = join(folder, `${name}.csv`);
  const rows = closes.map((close, i) => `2024-01-0${i + 1},${close},${close + 1},${close - 1},${close}`);
  writeFileSync(path, ["date,open,high,low,close", ...rows].join("\n"));
  return { file: path };
}
const bars = file("market", 100, 100, 110, 121);
const also = { a: file("a", 20, 20, 20, 30), b: file("b", 10, 11, 10, 15) };
const ask = (one: object, request: object = { bars, also }) =>
  compute({ ...request, ask: [one] } as Parameters<typeof compute>[0]).answers[0].values;

describe("groups", () => {
  it("ranks a group at its last common label", () => {
    expect(ask({ quantity: "ranks", windows: [1], ago: 1 })).toMatchObject([
      { time: "2024-01-04", name: "a", window: 1, rank: 1, change: 0 },
      { time: "2024-01-04", name: "b", window: 1, rank: 1, change: 1 },
    ]);
    expect(ask({ quantity: "ranks", windows: [1], members: ["b"] })).toMatchObject([{ name: "b", rank: 1 }]);
  });
  it("tells breadth by the labels of the request", () =>
    expect(ask({ quantity: "breadth", period: 2, extremes: 1 })[0]).toMatchObject({
      ...{ time: "2024-01-02", n: 2, advancing: 0.5, declining: 0, newHighs: 1, newLows: 0, net: 1 },
    }));
  it.each([
    [{ quantity: "ranks" }, { bars }, '"also" must name the members.'],
    [{ quantity: "ranks", members: ["c"] }, { bars, also }, '"members[0]" must be one of a, b.'],
    [{ quantity: "breadth", members: "a" }, { bars, also }, '"members" must be a list of names.'],
    [{ quantity: "ranks", windows: [0] }, { bars, also }, '"windows" must be a list of whole numbers from 1.'],
    [{ quantity: "breadth", period: 0 }, { bars, also }, '"period" must be a whole number from 1.'],
  ])("%j is a fault in a sentence", (one, request, sentence) => expect(() => ask(one, request)).toThrow(sentence));
});

describe("seasons", () => {
  const sp500 = { bars: { file: SP500_FILE } };
  it("by month, of whole months alone", () => {
    const months = ask({ quantity: "seasonality" }, sp500) as { key: number; n: number }[];
    expect(months.map(({ key }) => key)).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12]);
    const all = ask({ quantity: "resample", timeframe: "P1M" }, sp500).length;
    const counted = months.reduce((sum, { n }) => sum + n, 0);
    expect([all - 2, all - 1]).toContain(counted);
    // In the middle of June 2005 June is no return yet.
    const until = (asOf: string) =>
      (ask({ quantity: "seasonality" }, { ...sp500, asOf }) as { key: number; n: number }[]).find(
        ({ key }) => key === 6,
      )!.n;
    expect([until("2005-06-15"), until("2005-07-15")]).toEqual([until("2004-12-31"), until("2004-12-31") + 1]);
  });
  it("by hour only of bars that make hours", () =>
    expect(() => ask({ quantity: "seasonality", by: "hour" }, sp500)).toThrow("Bars of P1D do not make bars of PT1H."));
  it("by what there is", () =>
    expect(() => ask({ quantity: "seasonality", by: "moon" }, sp500)).toThrow('"by" must be one of month, week,'));
});

describe("the record", () => {
  const one = (more: object) => [{ triggered: true, at: "2024-01-02", ...more }];
  const record = (outcomes: unknown, more: object = {}) => ask({ quantity: "record", outcomes, ...more }, {});
  it("is told over all and by a key, those without it in the whole alone", () => {
    const list = [
      { triggered: true, r: 1, at: "2024-01-02", end: "2024-01-03T10:00:00Z", kind: "b" },
      { triggered: true, r: -1, at: "2024-01-02", end: "2024-01-03", kind: "a" },
      { triggered: false, at: "2024-01-02" },
    ];
    const [whole, ...by] = record(list, { by: "kind" });
    expect(whole).toMatchObject({
      stated: 3,
      n: 2,
      mean: 0,
      curve: [{ time: "2024-01-03T00:00:00Z", r: -1 }, { r: 0 }],
    });
    expect(whole).not.toHaveProperty("key");
    expect(by).toMatchObject([
      { key: "a", stated: 1, mean: -1 },
      { key: "b", stated: 1, mean: 1 },
    ]);
    expect(record([])).toEqual([{ stated: 0, n: 0, hits: 0, curve: [], drawdown: 0, losingRun: 0 }]);
  });
  it.each([
    [{}, '"outcomes" must be a list.'],
    [[7], '"outcomes[0]" must be an object.'],
    [one({ colour: "red" }), '"outcomes[0]" has no field "colour"'],
    [[{ triggered: "yes", at: "2024-01-02" }], '"outcomes[0].triggered" must be true or false.'],
    [[{ triggered: false, r: 1, at: "2024-01-02", end: "2024-01-03" }], "without having been triggered"],
    [one({ r: 1 }), '"outcomes[0]" has "r" and needs "end".'],
    [one({ r: Infinity, end: "2024-01-03" }), '"outcomes[0].r" must be a number.'],
    [one({ weight: 1.1 }), '"outcomes[0].weight" must be from 0 to 1.'],
    [one({ r: 1, end: "2024-01-01" }), '"outcomes[0].end" must not be before "at".'],
    [one({ r: 1, end: "soon" }), '"outcomes[0].end" must be an ISO 8601 date or time.'],
    [one({ market: 3 }), '"outcomes[0].market" must be text.'],
  ])("%j is a fault that names its place", (outcomes, sentence) => expect(() => record(outcomes)).toThrow(sentence));
});
