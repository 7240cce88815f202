import { randomUUID } from "node:crypto";
import { describe, expect, it } from "vitest";
import { EVERYTHING } from "#core/marks/shown";
import { transact } from "../database/connection.ts";
import { Market } from "../database/models.ts";
import { drawPicture, pictureSvg } from "../pictures/pictures.ts";
import { appendBars } from "../bars/chunks.ts";
import { aMarket, anAnalyst, failureOf, minutes, withTables } from "../testing.ts";
import { applySteps, marksOf } from "./marks.ts";
import { composeSeen, levelsAsCsv, seenAsJson, type Seen } from "./view.ts";

withTables();

const START = Date.UTC(2024, 0, 2);
const seen = (change: Partial<Seen> = {}): Seen => ({
  rung: "PT1M",
  hours: "all",
  asOf: undefined,
  view: { from: 0, to: 130, bottom: 90, top: 130 },
  scenario: "",
  shown: EVERYTHING,
  studies: [],
  ...change,
});

/** A hundred minutes that rise from 100 to 119.8, with two levels: one at the start, one late. */
async function marked(): Promise<Market> {
  const [{ id: author }, { id }] = [await anAnalyst(), await aMarket()];
  const closes = Array.from({ length: 100 }, (_, i) => 100 + i / 5);
  await transact((transaction) =>
    appendBars({ marketId: id, base: "PT1M", shelf: "live" }, minutes(START, closes), transaction),
  );
  const level = (minute: number, price: number, label: string) => ({
    id: randomUUID(),
    step: "set" as const,
    version: 0,
    mark: {
      id: randomUUID(),
      kind: "level",
      rung: "PT1M",
      anchors: [{ time: START + minute * 60_000, price }],
      props: { label },
      note: "",
    },
  });
  // Each as it was said at its minute, while the desk walked through the past.
  await applySteps(id, [level(5, 95, "=1+1")], author, START + 6 * 60_000);
  await applySteps(id, [level(80, 125, 'late, "high"')], author, START + 81 * 60_000);
  return (await Market.findByPk(id))!;
}

describe("what a chart shows, as files", () => {
  it("the levels as a table: highest first, with distances, and no live formula", async () => {
    const lines = levelsAsCsv(await composeSeen(await marked(), seen()))
      .trim()
      .split("\n");
    expect(lines[0]).toBe("bottom,top,name,kind,rung,state,percent,ATR,pip");
    expect(lines[1]).toMatch(/^125,125,"late, ""high""[^=]*",level,PT1M,\w+,4\.3406,/);
    expect(lines[2]).toMatch(/^95,95,'=1\+1[^,]*,level,PT1M,\w+,-20\.7012,/);
  });
  it("a unit that a spreadsheet would take for a formula stays a word in the head of a table", async () => {
    const market = await marked();
    market.pipName = '=1+1,"\n';
    const [head] = levelsAsCsv(await composeSeen(market, seen())).split("\n125");
    expect(head).toBe(`bottom,top,name,kind,rung,state,percent,ATR,"'=1+1,""\n"`);
  });
  it("the same picture as on the page, linear or log, of bars in view and room for the future", async () => {
    const market = await marked();
    for (const log of [false, true]) {
      const { picture, view } = await composeSeen(market, seen({ view: { ...seen().view, log } }));
      const { svg, png } = await drawPicture(picture, view, { width: 600, height: 400 }, "<b>Title</b>");
      expect(svg).toContain("&#60;b&#62;Title");
      expect(svg).not.toMatch(/NaN|Infinity/);
      // A PNG begins with its signature (ISO/IEC 15948).
      expect([...png.subarray(0, 8)]).toEqual([137, 80, 78, 71, 13, 10, 26, 10]);
    }
  });
  it("columns of boxes in place of bars, from the bar the page begins with; impossible boxes are refused", async () => {
    const market = await marked();
    const rules = { box: 1, reversal: 3, method: "close" } as const;
    const columns = { rules, start: 10 };
    const asked = seen({ view: { from: 0, to: 6, bottom: 90, top: 130 }, columns });
    const composed = await composeSeen(market, asked);
    expect(composed.picture.columns?.chart.columns.length).toBeGreaterThan(0);
    expect(composed.picture.columns?.chart.columns[0].start).toBeLessThan(composed.series.length - 10);
    const { svg } = await drawPicture(composed.picture, composed.view, { width: 600, height: 400 }, "Columns");
    expect(svg).not.toMatch(/NaN|Infinity/);
    const data = JSON.parse(seenAsJson(composed, asked)) as { columns: object; bars: { time: number }[] };
    expect(data.columns).toEqual(rules);
    expect(data.bars[0].time).toBe(composed.drawn.time[0]);
    await expect(
      composeSeen(market, { ...asked, columns: { rules: { ...rules, box: 1e-9 }, start: 0 } }),
    ).rejects.toThrow(/at least one tick/);
  });
  it("as data holds the bars in view, the marks with their state, and the levels", async () => {
    const asked = seen({ view: { from: 10.2, to: 19.7, bottom: 90, top: 130 } });
    const data = JSON.parse(seenAsJson(await composeSeen(await marked(), asked), asked)) as {
      bars: { time: number }[];
      marks: { status: string }[];
      levels: unknown[];
    };
    expect(data.bars.map(({ time }) => (time - START) / 60_000)).toEqual([10, 11, 12, 13, 14, 15, 16, 17, 18, 19]);
    expect([data.marks.length, data.levels.length]).toEqual([2, 2]);
  });
  it("leaves out what the charts leave out: kinds, marks of lower rungs, hidden ones", async () => {
    const market = await marked();
    const labels = async (change: Partial<Seen>) =>
      (await composeSeen(market, seen(change))).levels.map(({ label }) => label);
    expect(await labels({ shown: { ...EVERYTHING, without: ["level"] } })).toEqual([]);
    expect(await labels({ rung: "PT5M" })).toEqual([]);
    const [mark] = await marksOf(market.id);
    const { id, kind, rung, anchors, props, note, version } = mark;
    await applySteps(
      market.id,
      [{ id: randomUUID(), step: "set", version, mark: { id, kind, rung, anchors, props, note, hidden: true } }],
      (await anAnalyst()).id,
    );
    expect(await labels({})).toHaveLength(1);
  });
  it("as of a past moment neither bars nor marks of later are in any of them", async () => {
    const asked = seen({ asOf: START + 50 * 60_000 });
    const composed = await composeSeen(await marked(), asked);
    expect(composed.series.length).toBe(50);
    expect(composed.levels.map(({ top }) => top)).toEqual([95]);
    expect(seenAsJson(composed, asked)).not.toContain("late");
  });
  it("of a market without bars there is an empty table and a picture all the same", async () => {
    const market = (await Market.findByPk((await aMarket()).id))!;
    const composed = await composeSeen(market, seen());
    expect(levelsAsCsv(composed).trim().split("\n")).toHaveLength(1);
    expect(await pictureSvg(composed.picture, composed.view, { width: 300, height: 200 }, "Empty")).not.toMatch(/NaN/);
  });
});

describe("a view that shows nothing of what the market holds is refused before anything is drawn", () => {
  const view = seen().view;
  it.each([
    ["a height of a hair", { bottom: 100, top: 100.00000000000001 }, "too narrow"],
    ["no height", { bottom: 100, top: 100 }, "no width or no height"],
    [
      "a logarithm over six hundred powers of ten",
      { bottom: 1e-300, top: 1e300, log: true },
      "beyond the market's prices",
    ],
    ["a logarithm from zero", { bottom: 0, top: 120, log: true }, "begins above zero"],
    ["prices of another world", { bottom: -1e12, top: 1e12 }, "beyond the market's prices"],
    ["bars that are not there", { from: 1e6, to: 1e6 + 100 }, "beyond the market's bars"],
    ["less than half a bar", { from: 10, to: 10.1 }, "too narrow"],
  ])("%s", async (_what, change, why) => {
    const fault = await failureOf(composeSeen(await marked(), seen({ view: { ...view, ...change } })));
    expect(fault).toMatchObject({ code: "view", details: { status: 400 } });
    expect(fault.sentence).toContain(why);
  });
  it("and a rung longer than ten years is none", async () => {
    for (const rung of ["P999Y", "P11Y", "PT1441M", "PT0M", "P100D"])
      expect((await failureOf(composeSeen(await marked(), seen({ rung })))).code).toBe("timeframe");
  });
});
