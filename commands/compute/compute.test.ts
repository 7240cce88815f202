import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { SP500_FILE } from "#core/testing/openData";
import { compute, requestSchema } from "./compute.ts";
import { quantities } from "./quantities.ts";

const folder = mkdtempSync("/tmp/compass-compute-");
const file = (text: string) => {
  const path = join(folder, `${Math.random()}.csv`);
  writeFileSync(path, text);
  return path;
};
const ask = (...list: object[]) => compute({ bars: { file: SP500_FILE }, ask: list }).answers.map(({ values }) => values);

const EXAMPLES: Record<string, object> = {
  sma: { period: 20 },
  ema: { period: 20 },
  rsi: { period: 14 },
  atr: { period: 14 },
  wma: { period: 20 },
  moneyFlow: { period: 14 },
  macd: { slow: 15, fast: 8, signal: 5 },
  cloud: { conversion: 5, base: 9, span: 15 },
  pivots: { period: "P1W" },
  correlation: { with: { file: file(Array.from({ length: 61 }, (_, i) => (i === 0 ? "date,open,high,low,close" : `${new Date(Date.UTC(2023, 11, 31 + i)).toISOString().slice(0, 10)},10,14,9,${10 + ((i * 7) % 4)}`)).join("\n")) }, period: 8 },
  resample: { timeframe: "P1W" },
  swings: { k: 3 },
  periodExtremes: { period: "P1W" },
  retracement: { from: { time: "2015-01-02", price: 10 }, to: { time: "2015-02-02", price: 20 } },
  impulse: { pivots: [{ time: "2015-01-02", price: 10 }, { time: "2015-02-02", price: 20 }] },
  projection: { from: { time: "2015-01-02", price: 10 }, to: { time: "2015-02-02", price: 20 }, origin: { time: "2015-03-02", price: 15 } },
  waves: { best: 3, degrees: 2 },
  structure: { k: 1 },
  equalLevels: { k: 1 },
  areas: { timeframes: ["P1D", "P1W"] },
  zone: { side: "demand", bottom: 1100, top: 1120, time: "2009-11-01" },
};

describe("a request", () => {
  it("is answered in the order asked, in the fields promised", () => {
    const [swings, means] = ask({ quantity: "swings" }, { quantity: "sma", period: 3 });
    expect(Object.keys(swings[0])).toEqual(["time", "side", "price", "knownAt"]);
    expect(means[0]).toEqual({ time: "2000-01-05", value: expect.closeTo((1455.219971 + 1399.420044 + 1402.109985) / 3, 9) as number });
  });
  it("names weeks by their Monday and quarters by their first day", () => {
    const [[week], [quarter]] = ask({ quantity: "resample", timeframe: "P1W" }, { quantity: "resample", timeframe: "P3M" });
    expect([week.time, quarter.time]).toEqual(["2000-01-03", "2000-01-01"]);
  });
  it("evaluates on a derived timeframe when told to", () => {
    const { answers } = compute({ bars: { file: SP500_FILE }, timeframe: "P1M", ask: [{ quantity: "sma", period: 2 }] });
    expect(answers[0].values[0].time).toBe("2000-02-01");
  });
  it.each(quantities.map(({ name }) => name))("as of a day, %s sees what a file cut there holds", (quantity) => {
    const request = { quantity, ...EXAMPLES[quantity] };
    const lines = ["date,open,high,low,close", ...Array.from({ length: 60 }, (_, i) => `2024-0${1 + Math.floor(i / 28)}-${String((i % 28) + 1).padStart(2, "0")},${100 + i},${103 + ((i * 7) % 5)  + i},${97 + i - ((i * 3) % 4)},${101 + i}`)];
    const whole = compute({ bars: { file: file(lines.join("\n")) }, asOf: "2024-02-10", ask: [request] });
    const cut = compute({ bars: { file: file(lines.filter((line) => line < "2024-02-11" || line.startsWith("date")).join("\n")) }, ask: [request] });
    expect(whole).toEqual(cut);
  });
  it("reads intraday files in their zone and cuts bars by the market's sessions", () => {
    const text = "time,open,high,low,close\n2024-07-01T09:30,1,1,1,1\n2024-07-01T15:59,2,2,2,2\n2024-07-02T09:30,3,3,3,3\n";
    const market = { timezone: "America/New_York", sessions: [{ days: [1, 2, 3, 4, 5], open: "09:30", close: "16:00" }] };
    const bars = { file: file(text), timeframe: "PT1M", timezone: "America/New_York" };
    const { answers } = compute({ bars, market, ask: [{ quantity: "resample", timeframe: "P1D" }, { quantity: "resample", timeframe: "PT4H" }] });
    expect(answers[0].values.map(({ time, close }) => [time, close])).toEqual([["2024-07-01", 2], ["2024-07-02", 3]]);
    expect(answers[1].values.map(({ time }) => time)).toEqual(["2024-07-01T13:30:00Z", "2024-07-01T17:30:00Z", "2024-07-02T13:30:00Z"]);
  });
});

describe("the command", () => {
  const run = (input: string, ...args: string[]) => spawnSync("node_modules/.bin/tsx", ["commands/compute.ts", ...args], { input, encoding: "utf8" });
  it("writes one answer and nothing else", () => {
    const { stdout, status } = run(JSON.stringify({ ask: [{ quantity: "retracement", from: { time: "2020-01-01", price: 100 }, to: { time: "2020-02-01", price: 200 }, ratios: [0.5] }] }));
    expect(status).toBe(0);
    expect(JSON.parse(stdout)).toEqual({
      answers: [{ quantity: "retracement", params: expect.anything() as object, values: [{ ratio: 0.5, price: 150 }] }],
    });
  });
  it("the schema in docs is the one the command prints", () => {
    expect(JSON.parse(readFileSync("docs/compute.schema.json", "utf8"))).toEqual(JSON.parse(JSON.stringify(requestSchema())));
  });
  it("lists what can be asked", () => expect(run("", "--list").stdout).toContain("impulse:"));
  it.each<[string, string, RegExp]>([
    ["no JSON", "{", /not JSON/],
    ["a list", "[]", /must be an object/],
    ["nothing asked", "{}", /"ask" must be/],
    ["an unknown quantity", '{"ask":[{"quantity":"luck"}]}', /no quantity "luck"/],
    ["no bars", '{"ask":[{"quantity":"sma","period":2}]}', /needs "bars"/],
    ["a missing file", '{"bars":{"file":"nowhere.csv"},"ask":[{"quantity":"swings"}]}', /cannot be read/],
  ])("%s ends with status 2, one sentence and no answer", (_name, input, words) => {
    const { stdout, stderr, status } = run(input);
    expect([status, stdout]).toEqual([2, ""]);
    expect(stderr.trim()).toMatch(words);
    expect(stderr.trim().split("\n").filter((line) => !line.startsWith("npm"))).toHaveLength(1);
  });
  it.each<[object, RegExp]>([
    [{ quantity: "sma", period: 0 }, /whole number/],
    [{ quantity: "sma" }, /needs "period"/],
    [{ quantity: "sma", period: 2, colour: "red" }, /no parameter "colour"/],
    [{ quantity: "sma", period: 2, of: "time" }, /must be one of/],
    [{ quantity: "resample", timeframe: "weekly" }, /ISO 8601/],
    [{ quantity: "resample", timeframe: "PT1H" }, /do not make/],
    [{ quantity: "zone", side: "demand", bottom: 2, top: 1, time: "2000-01-03" }, /above "bottom"/],
  ])("%j is refused", (request, words) => expect(() => ask(request)).toThrow(words));
  it("a bad row is a fault, named by line", () => {
    const bars = { file: file("date,open,high,low,close\n2024-01-02,1,2,1,2\n2024-01-03,1,2,3,2\n") };
    expect(() => compute({ bars, ask: [{ quantity: "swings" }] })).toThrow(/line 3: The high is below the low/);
  });
});
