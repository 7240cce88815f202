import { mkdtempSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { afterAll, describe, expect, it } from "vitest";
import { plotOf, type View } from "../../chart/scale.ts";
import type { Drawing } from "../tasks/draw.ts";
import { failureOf } from "../testing.ts";
import { closePool, runTask } from "./pool.ts";

afterAll(closePool);

const size = { width: 600, height: 400 };
const view: View = { from: 0, to: 10, bottom: 0, top: 10 };
const drawing = (points: number[], more: object = {}): Drawing => ({
  layout: {
    ground: [],
    candles: [],
    marks: [{ kind: "path", paths: [points], stroke: "ink", width: 1, dash: [1, 3], ...more }],
    panels: [],
    heads: [],
    tags: [],
    priceTicks: [],
    timeTicks: [],
  },
  view,
  size,
  room: 70,
  decimals: 2,
  title: "A title",
});
const { left, top } = plotOf(size.width, size.height);

/** A calendar whose rule never comes to a time: looking for the next one does not end. */
const NEVER = [
  "BEGIN:VCALENDAR",
  "BEGIN:VEVENT",
  "DTSTART:20240101T000000Z",
  "RRULE:FREQ=DAILY;BYMONTH=2;BYMONTHDAY=31",
  "SUMMARY:x",
  "END:VEVENT",
  "END:VCALENDAR",
].join("\r\n");
const file = (text: string) => {
  const path = join(mkdtempSync("/tmp/compass-"), "a.csv");
  writeFileSync(path, text);
  return path;
};

describe("work in processes of their own", () => {
  it(
    "a rasteriser that aborts takes its own process with it, nobody else's, and the next picture " + "is drawn",
    async () => {
      // Layers that lie many canvases away: the rasteriser of these versions ends its process over them. No picture of
      // ours has any.
      const far = drawing([10, -50_000, 20, -60_000], { opacity: 0.5 });
      const [lost, [drawn]] = await Promise.all([
        failureOf(runTask("drawBoth", [far])),
        runTask("drawBoth", [drawing([left, top, 50, 50])]),
      ]);
      expect(lost).toMatchObject({ code: "failed", details: { kept: "Nothing was stored." } });
      expect(drawn.svg).toContain("<title>A title</title>");
      expect([...(await runTask("drawBoth", [drawing([left, top, 90, 90])]))[0].png.subarray(0, 4)]).toEqual([
        137, 80, 78, 71,
      ]);
    },
  );
  it("a rule without end is given up with a sentence, and the next calendar is read", { timeout: 40_000 }, async () => {
    const given = { zone: "UTC", from: 0, to: Date.UTC(2026, 0, 1) };
    const fault = await failureOf(runTask("readEvents", { text: NEVER, ...given }));
    expect(fault).toMatchObject({ code: "too-long", details: { kept: "Nothing was stored." } });
    const read = await runTask("readEvents", {
      text: NEVER.replace("BYMONTHDAY=31", "BYMONTHDAY=3;COUNT=2"),
      ...given,
    });
    expect(typeof read === "string" ? read : read.events).toHaveLength(2);
  });
  it("events by the second use up one budget for the whole file", async () => {
    const event = (n: number) =>
      [
        "BEGIN:VEVENT",
        `UID:${n}`,
        "DTSTART:20200101T000000Z",
        "RRULE:FREQ=SECONDLY",
        `SUMMARY:tick ${n}`,
        "END:VEVENT",
      ].join("\r\n");
    const text = ["BEGIN:VCALENDAR", ...Array.from({ length: 20 }, (_, n) => event(n)), "END:VCALENDAR"].join("\r\n");
    expect(
      await runTask("readEvents", { text, zone: "UTC", from: Date.UTC(2024, 0, 1), to: Date.UTC(2026, 0, 1) }),
    ).toMatch(/come too often: more than 60,000 times.*"tick 0"/);
  });
  it("a file of more lines than are read is told so before it is taken apart", async () => {
    const path = file(`time,open,high,low,close\n${"1,2\n".repeat(3_000_001)}`);
    expect(await runTask("readBars", { path, options: { zone: "UTC" } })).toMatch(/more than 3,000,000 lines/);
  });
  it("work nobody waits for any more is not begun", async () => {
    const gone = new AbortController();
    gone.abort();
    expect(
      (await failureOf(runTask("readEvents", { text: NEVER, zone: "UTC", from: 0, to: 1 }, gone.signal))).code,
    ).toBe("gone");
  });
});
