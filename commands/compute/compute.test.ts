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
const ask = (...list: object[]) =>
  compute({ bars: { file: SP500_FILE }, ask: list }).answers.map(({ values }) => values);

/** Another market's bars. */
const OTHER = {
  file: file(
    Array.from({ length: 61 }, (_, i) =>
      i === 0
        ? "date,open,high,low,close"
        : `${new Date(Date.UTC(2023, 11, 31 + i)).toISOString().slice(0, 10)},10,14,9,${10 + ((i * 7) % 4)}`,
    ).join("\n"),
  ),
};
const MOVE = {
  a: { time: "2024-01-02", price: 97 },
  b: { time: "2024-01-04", price: 104 },
  c: { time: "2024-01-05", price: 102 },
};

const EXAMPLES: Record<string, object> = {
  scenarioHistory: {
    scenario: {
      direction: "long",
      if: [{ when: { on: "close", side: "above", price: 104, rung: "P1D" } }],
      entry: { order: "market" },
      stop: { bind: "barLow", step: 1, ticks: -1 },
      targets: [{ price: { bind: "barHigh", step: 1, ticks: 300 }, share: 1 }],
      wrong: 50,
      expires: "P10D",
    },
    seed: 3,
    draws: 20,
  },
  scenario: {
    since: "2024-01-05",
    scenario: {
      direction: "long",
      if: [{ when: { on: "close", side: "above", price: 108, rung: "P1W" }, within: 4 }],
      entry: { order: "market" },
      stop: 100,
      targets: [{ price: 150, share: 1 }],
      wrong: 90,
      expires: "2024-03-01",
    },
  },
  sma: { period: 20 },
  ema: { period: 20 },
  rsi: { period: 14 },
  atr: { period: 14 },
  wma: { period: 20 },
  moneyFlow: { period: 14 },
  macd: { slow: 15, fast: 8, signal: 5 },
  cloud: { conversion: 5, base: 9, span: 15 },
  pivots: { period: "P1W" },
  correlation: { with: OTHER, period: 8 },
  beta: { with: OTHER, period: 8 },
  relative: { with: OTHER },
  leadLag: { with: OTHER, lags: 3 },
  anchoredAverage: { from: "2024-01-05" },
  rangeUse: { n: 2 },
  expectedRange: { n: 2 },
  seasonality: { by: "weekday" },
  record: {
    outcomes: [
      { triggered: true, r: 1.5, weight: 0.6, at: "2024-01-02", end: "2024-01-05", kind: "morning" },
      { triggered: false, weight: 0.2, at: "2024-01-03", kind: "close" },
    ],
    by: "kind",
  },
  divergences: { k: 2, of: { quantity: "rsi", period: 3 } },
  cycles: { k: 2 },
  measuredMove: MOVE,
  timeRatios: { a: "2024-01-02", b: "2024-01-04", c: "2024-01-05" },
  resample: { timeframe: "P1W" },
  swings: { k: 3 },
  periodExtremes: { period: "P1W" },
  retracement: { from: { time: "2015-01-02", price: 10 }, to: { time: "2015-02-02", price: 20 } },
  impulse: {
    pivots: [
      { time: "2015-01-02", price: 10 },
      { time: "2015-02-02", price: 20 },
    ],
  },
  projection: {
    from: { time: "2015-01-02", price: 10 },
    to: { time: "2015-02-02", price: 20 },
    origin: { time: "2015-03-02", price: 15 },
  },
  waves: { best: 3, degrees: 2 },
  structure: { k: 1 },
  equalLevels: { k: 1 },
  areas: { timeframes: ["P1D", "P1W"] },
  zone: { side: "demand", bottom: 1100, top: 1120, time: "2009-11-01" },
  lift: { kind: "gap", outcome: { horizon: 5 } },
};

describe("a request", () => {
  it("is answered in the order asked, in the fields promised", () => {
    const [swings, means] = ask({ quantity: "swings" }, { quantity: "sma", period: 3 });
    expect(Object.keys(swings[0])).toEqual(["time", "side", "price", "knownAt"]);
    expect(means[0]).toEqual({
      time: "2000-01-05",
      value: expect.closeTo((1455.219971 + 1399.420044 + 1402.109985) / 3, 9) as number,
    });
  });
  it("names weeks by their Monday and quarters by their first day", () => {
    const [[week], [quarter]] = ask(
      { quantity: "resample", timeframe: "P1W" },
      { quantity: "resample", timeframe: "P3M" },
    );
    expect([week.time, quarter.time]).toEqual(["2000-01-03", "2000-01-01"]);
  });
  it("evaluates on a derived timeframe when told to", () => {
    const { answers } = compute({
      bars: { file: SP500_FILE },
      timeframe: "P1M",
      ask: [{ quantity: "sma", period: 2 }],
    });
    expect(answers[0].values[0].time).toBe("2000-02-01");
  });
  it.each(quantities.map(({ name }) => name))("as of a day, %s sees what a file cut there holds", (quantity) => {
    const request = { quantity, ...EXAMPLES[quantity] };
    const lines = [
      "date,open,high,low,close",
      ...Array.from({ length: 60 }, (_, i) =>
        [
          `2024-0${1 + Math.floor(i / 28)}-${String((i % 28) + 1).padStart(2, "0")}`,
          ...[100 + i, 103 + ((i * 7) % 5) + i, 97 + i - ((i * 3) % 4), 101 + i],
        ].join(","),
      ),
    ];
    const group = ["ranks", "breadth"].includes(quantity) ? { also: { other: OTHER } } : {};
    const whole = compute({ bars: { file: file(lines.join("\n")) }, ...group, asOf: "2024-02-10", ask: [request] });
    const cut = compute({
      ...group,
      bars: { file: file(lines.filter((line) => line < "2024-02-11" || line.startsWith("date")).join("\n")) },
      ask: [request],
    });
    expect(whole).toEqual(cut);
  });
  describe("as of an instant sees what had closed by then", () => {
    const closes = (text: string, timeframe: string, asOf: string, more: object = {}) =>
      compute({
        bars: { file: file(text), timeframe, ...more },
        asOf,
        ask: [{ quantity: "resample", timeframe }],
      }).answers[0].values.map(({ close }) => close);
    const hourRow = (hour: number) =>
      [`2024-07-01T${String(hour).padStart(2, "0")}:00Z`, hour, hour, hour, hour].join(",");
    const hours = `time,open,high,low,close\n${[9, 10, 11, 12, 13].map(hourRow).join("\n")}\n`;
    it("an hour that has just opened is not among them, one that has just closed is", () => {
      expect(closes(hours, "PT1H", "2024-07-01T13:00:00Z")).toEqual([9, 10, 11, 12]);
      expect(closes(hours, "PT1H", "2024-07-01T13:59:59Z")).toEqual([9, 10, 11, 12]);
      expect(closes(hours, "PT1H", "2024-07-01T14:00:00Z")).toEqual([9, 10, 11, 12, 13]);
    });
    it("a month is not seen on its fourth, a week not on its Wednesday, a day on its own date", () => {
      const row = (date: string, n: number) => `${date},${n},${n},${n},${n}`;
      const table = (...rows: string[]) => ["date,open,high,low,close", ...rows].join("\n");
      expect(closes(table(row("2024-05-01", 5), row("2024-06-01", 6)), "P1M", "2024-06-04")).toEqual([5]);
      expect(closes(table(row("2024-06-03", 1), row("2024-06-10", 2)), "P1W", "2024-06-12")).toEqual([1]);
      expect(closes(table(row("2024-06-03", 1), row("2024-06-10", 2)), "P1W", "2024-06-16")).toEqual([1, 2]);
      expect(closes(table(row("2024-06-03", 1), row("2024-06-04", 2)), "P1D", "2024-06-04")).toEqual([1, 2]);
      expect(closes(table(row("2024-06-03", 1), row("2024-06-04", 2)), "P1D", "2024-06-04T12:00:00Z")).toEqual([1]);
    });
    it("a running week is not spoken of on its Wednesday where weeks are asked for, and is on its Sunday", () => {
      const days = Array.from(
        { length: 14 },
        (_, i) => `2024-06-${String(3 + i).padStart(2, "0")},${[1, 1, 1, 1].map((one) => one + i).join()}`,
      );
      const text = ["date,open,high,low,close", ...days].join("\n");
      const asked = (asOf: string) =>
        compute({
          ...{ bars: { file: file(text), timeframe: "P1D" }, timeframe: "P1W", asOf },
          ask: [{ quantity: "sma", period: 1 }],
        }).answers[0].values.map(({ value }) => value);
      expect(asked("2024-06-12")).toEqual([7]);
      expect(asked("2024-06-16")).toEqual([7, 14]);
    });
    it("a date means to its end where the bars' clocks are", () => {
      const text =
        "time,open,high,low,close\n2024-07-01T22:00,1,1,1,1\n2024-07-01T23:00,2,2,2,2\n2024-07-02T00:00,3,3,3,3\n";
      expect(closes(text, "PT1H", "2024-07-01", { timezone: "America/New_York" })).toEqual([1, 2]);
    });
  });
  it.each<[string, object, RegExp]>([
    ["a slip in a field's name", { asOF: "2013-06-30" }, /"request" has no field "asOF"/],
    ["one in the bars", { bars: { file: "FILE", timezon: "UTC" } }, /"bars" has no field "timezon"/],
    ["one in the market", { market: { ticks: 1 } }, /"market" has no field "ticks"/],
    [
      "one in a session",
      { market: { sessions: [{ days: [1], open: "09:00", close: "17:00", zone: "UTC" }] } },
      /"market.sessions\[0\]" has no field "zone"/,
    ],
    ["sessions as text", { market: { sessions: "always" } }, /"market.sessions" must be a list/],
    ["a zone that is a number", { market: { timezone: 5 } }, /"market.timezone" must be a zone/],
    ["a holiday that is no date", { market: { holidays: ["Christmas"] } }, /"market.holidays\[0\]" must be a date/],
    [
      "one in a point",
      {
        ask: [
          {
            quantity: "retracement",
            from: { time: "2013-01-01", price: 1, at: 2 },
            to: { time: "2013-01-02", price: 2 },
          },
        ],
      },
      /"from" has no field "at"/,
    ],
    ["a base quieter than nothing", { ask: [{ quantity: "zones", quiet: -1 }] }, /"quiet" must be 0 or more/],
    [
      "a tolerance below nothing",
      { ask: [{ quantity: "equalLevels", tolerance: -0.1 }] },
      /"tolerance" must be 0 or more/,
    ],
  ])("%s is a fault, never ignored", (_what, change, said) => {
    const named = file("date,open,high,low,close\n2013-06-10,1,1,1,1\n2013-06-11,2,2,2,2\n");
    const request = JSON.parse(
      JSON.stringify({ bars: { file: named }, ask: [{ quantity: "resample", timeframe: "P1D" }], ...change }).replace(
        "FILE",
        named,
      ),
    ) as Record<string, unknown>;
    expect(() => compute(request)).toThrow(said);
  });
  it(
    "dates that can be read in two ways are a fault, also when only row two thousand decides otherwise it " + "is none",
    () => {
      const day = (n: number) => new Date(Date.UTC(2013, 0, 1 + n));
      const rows = (count: number, write: (date: Date) => string) =>
        ["date,open,high,low,close", ...Array.from({ length: count }, (_, n) => `${write(day(n))},1,1,1,1`)].join("\n");
      const slashed = (date: Date) => `${date.getUTCDate()}/${date.getUTCMonth() + 1}/${date.getUTCFullYear()}`;
      const ask = [{ quantity: "resample", timeframe: "P1D" }];
      // Every day of these is one to twelve: 5/6 is both.
      const open = Array.from(
        { length: 1100 },
        (_, n) => `${1 + (n % 12)}/${1 + (Math.floor(n / 12) % 12)}/${2001 + Math.floor(n / 144)},1,1,1,1`,
      );
      expect(() => compute({ bars: { file: file(["date,open,high,low,close", ...open].join("\n")) }, ask })).toThrow(
        /day first and month first/,
      );
      const decided = [...open, "31/1/2010,1,1,1,1"];
      expect(
        compute({
          bars: { file: file(["date,open,high,low,close", ...decided].join("\n")) },
          ask,
        }).answers[0].values.at(-1),
      ).toMatchObject({ time: "2010-01-31" });
      expect(compute({ bars: { file: file(rows(60, slashed)) }, ask }).answers[0].values).toHaveLength(60);
    },
  );
  it("minutes are not taken for days", () => {
    const text = "time,open,high,low,close\n2024-07-01T09:30,1,1,1,1\n2024-07-01T09:31,2,2,2,2\n";
    expect(() => compute({ bars: { file: file(text) }, ask: [{ quantity: "resample", timeframe: "P1D" }] })).toThrow(
      /bars of P1D cannot stand 1 min apart/,
    );
  });
  it(
    "prices of a hundred millionth have their ticks: a real index divided by 10^11 has the zones that the " +
      "index has in cents",
    () => {
      const [header, ...rows] = readFileSync(SP500_FILE, "utf8")
        .trim()
        .split("\n")
        .slice(0, 1500)
        .map((line) => line.split(","));
      const columns = ["date", "open", "high", "low", "close"].map((name) =>
        header.findIndex((cell) => cell.trim().toLowerCase() === name),
      );
      const zones = (power: string) => {
        const lines = rows.map((row) =>
          columns
            .map((column, i) => (i === 0 ? row[column] : `${Math.round(Number(row[column]) * 100)}${power}`))
            .join(","),
        );
        return compute({
          bars: { file: file(["date,open,high,low,close", ...lines].join("\n")) },
          ask: [{ quantity: "zones" }],
        }).answers[0].values.map(({ time, side, state, touches }) => [time, side, state, touches]);
      };
      expect(zones("e-2").length).toBeGreaterThan(50);
      expect(zones("e-13")).toEqual(zones("e-2"));
    },
  );
  it("reads intraday files in their zone and cuts bars by the market's sessions", () => {
    const text =
      "time,open,high,low,close\n2024-07-01T09:30,1,1,1,1\n2024-07-01T15:59,2,2,2,2\n2024-07-02T09:30,3,3,3,3\n";
    const market = {
      timezone: "America/New_York",
      sessions: [{ days: [1, 2, 3, 4, 5], open: "09:30", close: "16:00" }],
    };
    const bars = { file: file(text), timeframe: "PT1M", timezone: "America/New_York" };
    const { answers } = compute({
      bars,
      market,
      ask: [
        { quantity: "resample", timeframe: "P1D" },
        { quantity: "resample", timeframe: "PT4H" },
      ],
    });
    expect(answers[0].values.map(({ time, close }) => [time, close])).toEqual([
      ["2024-07-01", 2],
      ["2024-07-02", 3],
    ]);
    expect(answers[1].values.map(({ time }) => time)).toEqual([
      "2024-07-01T13:30:00Z",
      "2024-07-01T17:30:00Z",
      "2024-07-02T13:30:00Z",
    ]);
  });
});

describe("the command", () => {
  const run = (input: string, ...args: string[]) =>
    spawnSync("node_modules/.bin/tsx", ["commands/compute.ts", ...args], { input, encoding: "utf8" });
  it("writes one answer and nothing else", () => {
    const { stdout, status } = run(
      JSON.stringify({
        ask: [
          {
            quantity: "retracement",
            from: { time: "2020-01-01", price: 100 },
            to: { time: "2020-02-01", price: 200 },
            ratios: [0.5],
          },
        ],
      }),
    );
    expect(status).toBe(0);
    expect(JSON.parse(stdout)).toEqual({
      answers: [{ quantity: "retracement", params: expect.anything() as object, values: [{ ratio: 0.5, price: 150 }] }],
    });
  });
  it("the schema in docs is the one the command prints", () => {
    expect(JSON.parse(readFileSync("docs/compute.schema.json", "utf8"))).toEqual(
      JSON.parse(JSON.stringify(requestSchema())),
    );
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
    expect(
      stderr
        .trim()
        .split("\n")
        .filter((line) => !line.startsWith("npm")),
    ).toHaveLength(1);
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
