import { describe, expect, it } from "vitest";
import { barAt } from "#core/series/series";
import { parseTimeframe } from "#core/time/timeframe";
import { nextTimes } from "#core/time/boundaries";
import { pictureOf } from "../publishing/pictureOf.ts";
import { composeSection } from "../publishing/section.ts";
import { pictureSvg } from "../pictures/pictures.ts";
import { Market } from "../database/models.ts";
import { anAnalyst, confirmation, failureOf, upload, withTables } from "../testing.ts";
import { importUpload, inspectUpload, type Inspection } from "../intake/import.ts";
import { marketDays } from "./overview.ts";
import { sketchesOf } from "./sketches.ts";
import { calendarOf } from "./markets.ts";
import { seriesOf } from "./series.ts";
import { saveMarket } from "./settings.ts";

withTables();

const RUNGS = ["P1Y", "P3M", "P1M", "P1W", "P1D", "PT4H", "PT1M"];

async function imported(lines: readonly string[], change: Parameters<typeof confirmation>[0] = {}): Promise<Market> {
  const { id } = await anAnalyst();
  const report = await importUpload(
    await upload(["time,open,high,low,close", ...lines].join("\n"), id),
    confirmation(change),
    id,
  );
  return (await Market.findByPk(report.market))!;
}

/** What every place shows of a market: rungs, the list, the future's axis, the picture of an edition. */
async function shown(market: Market): Promise<string> {
  const sketches = await sketchesOf(market, RUNGS);
  expect(sketches.map(({ rung }) => rung)).toEqual(RUNGS);
  expect((await marketDays()).find(({ id }) => id === market.id)).toBeDefined();
  const daily = await seriesOf(market, "P1D");
  for (const time of nextTimes(daily.time[daily.length - 1], parseTimeframe("P1D")!, calendarOf(market), 50))
    expect(Number.isFinite(time)).toBe(true);
  const { picture, view } = pictureOf(await composeSection(market.id, "P1D", [], ""));
  expect(view.top).toBeGreaterThan(view.bottom);
  const svg = await pictureSvg(picture, view, { width: 400, height: 300 }, market.name);
  expect(svg).not.toMatch(/NaN|Infinity/);
  return svg;
}

describe("odd markets are shown like others", () => {
  it("one bar", async () => {
    const market = await imported(["2024-01-02,10,12,9,11"]);
    await shown(market);
    expect(barAt(await seriesOf(market, "P1Y"), 0)).toMatchObject({ time: Date.UTC(2024, 0, 1), open: 10, close: 11 });
  });
  it("prices that are all the same", async () => {
    await shown(
      await imported(
        Array.from(
          { length: 60 },
          (_, i) => `${new Date(Date.UTC(2024, 0, 1 + i)).toISOString().slice(0, 10)},7,7,7,7`,
        ),
      ),
    );
  });
  it("a gap of twenty years, on every rung two bars and no bar between", async () => {
    const market = await imported(["2004-01-05,10,12,9,11", "2024-01-08,20,22,19,21"]);
    for (const rung of ["P1D", "P1W", "P1M", "P3M", "P1Y"]) expect((await seriesOf(market, rung)).length, rung).toBe(2);
    await shown(market);
  });
  it.each([
    ["1e-8", 8, ["0.00000001", "0.00000003", "0.00000001", "0.00000002"]],
    ["1e9", 0, ["1000000000", "1000000003", "999999999", "1000000002"]],
  ])("prices about %s", async (_about, decimals, [open, high, low, close]) => {
    const market = await imported(
      [`2024-01-02,${open},${high},${low},${close}`, `2024-01-03,${close},${high},${low},${open}`],
      { decimals, tick: 10 ** -decimals },
    );
    expect(barAt(await seriesOf(market, "P1W"), 0)).toMatchObject({
      open: Number(open),
      high: Number(high),
      low: Number(low),
      close: Number(open),
    });
    await shown(market);
  });
});

describe("hours that cannot be", () => {
  const dto = (change: object) => ({
    name: `Hours ${Math.random()}`,
    kind: "other",
    tick: 1,
    pip: 1,
    pipName: "pt",
    decimals: 0,
    zone: "UTC",
    sessions: [],
    holidays: [],
    halfDays: [],
    ...change,
  });
  const session = (open: string, close: string) => ({
    days: [1, 2, 3, 4, 5],
    open,
    close,
    opensDayBefore: false,
    kind: "regular" as const,
  });
  it.each([
    ["overlap", { sessions: [session("09:00", "12:00"), session("11:59", "15:00")] }, /overlap/],
    [
      "overlap over midnight",
      { sessions: [session("00:00", "24:00"), { ...session("22:00", "08:00"), opensDayBefore: true }] },
      /overlap/,
    ],
    ["no zone", { zone: "Atlantis/Capital", sessions: [session("09:00", "12:00")] }, /not a time zone/],
    ["backwards", { sessions: [session("12:00", "09:00")] }, /closes before it opens/],
    ["none", {}, /no session/],
    ["no day", { sessions: [session("09:00", "10:00")], holidays: ["2024-02-30"] }, /not a date/],
  ])("%s: refused, and the market keeps its own", async (_name, change, words) => {
    const market = await imported(["2024-01-02,10,12,9,11"]);
    const failure = await failureOf(saveMarket(market.id, dto(change)));
    expect(failure.sentence).toMatch(words);
    expect(await Market.findByPk(market.id)).toMatchObject({
      name: market.name,
      calendar: market.calendar,
      history: market.history,
    });
  });
  it("another calendar cuts other bars at once", async () => {
    const market = await imported(["2024-01-02T05:00:00Z,1,1,1,1", "2024-01-02T09:00:00Z,2,2,2,2"], { base: "PT1H" });
    expect((await seriesOf(market, "P1D")).length).toBe(1);
    await saveMarket(
      market.id,
      dto({ name: market.name, zone: "America/Los_Angeles", sessions: [session("00:00", "24:00")] }) as never,
    );
    const again = (await Market.findByPk(market.id))!;
    expect(again.history).toBe(market.history + 1);
    expect((await seriesOf(again, "P1D")).length).toBe(2);
  });
});

describe("a file of two hundred thousand rows", () => {
  it("with one bad row in the middle is refused by its line, then taken without exactly that row", async () => {
    const { id } = await anAnalyst();
    const [count, bad] = [200_000, 100_000];
    const rows = Array.from({ length: count }, (_, i) => {
      const time = new Date(Date.UTC(2022, 0, 3) + i * 60_000).toISOString().slice(0, 16);
      return i === bad ? `${time},10,9,11,10` : `${time},10,11,9,10`;
    });
    const file = Buffer.from(`time,open,high,low,close\n${rows.join("\n")}\n`);
    const sent = await upload(file, id);
    const { faults, bars } = (await inspectUpload(sent, { zone: "UTC" }, id)) as Inspection;
    expect(faults).toEqual([{ line: bad + 2, reason: "The high is below the low." }]);
    expect(bars).toBe(count - 1);
    const confirm = confirmation({ base: "PT1M" });
    expect(await failureOf(importUpload(sent, confirm, id))).toMatchObject({ code: "bad-rows" });
    expect(await Market.findOne({ where: { name: confirm.name } })).toBeNull();
    const report = await importUpload(sent, { ...confirm, badRows: "leaveOut" }, id);
    expect(report).toMatchObject({ added: count - 1, leftOutCount: 1 });
    expect((await seriesOf((await Market.findByPk(report.market))!, "P1Y")).length).toBe(1);
  }, 60_000);
});
