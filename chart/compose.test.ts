import { describe, expect, it } from "vitest";
import { EVERYTHING } from "#core/marks/shown";
import { calendar, live, mark } from "#core/testing/marks";
import { days } from "#core/testing/openData";
import type { Mark } from "#core/marks/kind";
import { ahead, isUnfinished, shownMarks } from "./compose.ts";

const DAY = 86_400_000;
const timeframe = { count: 1, unit: "day" } as const;
const series = days([10, 11, 9, 10], [10, 12, 10, 12], [12, 12, 8.5, 9.5], [9.5, 9.6, 7, 7.5]);
const on = { series, timeframe, calendar };
const lived = (one: Mark) => ({ mark: one, life: live(one, series) });

describe("what a picture of a rung shows", () => {
  const broken = { ...mark("level", [[0, 9]]), id: "broken" };
  const stands = { ...mark("level", [[0, 5]]), id: "stands" };
  const weekly = { ...stands, id: "weekly", rung: "P1W" };
  const hourly = { ...stands, id: "hourly", rung: "PT1H" };
  const hidden = { ...stands, id: "hidden", hidden: true };
  const all = [broken, stands, weekly, hourly, hidden].map(lived);
  const ids = (shown = EVERYTHING, selected: string[] = []) =>
    shownMarks(all, "P1D", series, shown, selected).map(({ mark: { id } }) => id);
  it("are marks of its rung and of higher ones that are not hidden", () => {
    expect(ids()).toEqual(["broken", "stands", "weekly"]);
    expect(ids({ ...EVERYTHING, dead: false })).toEqual(["stands", "weekly"]);
    expect(ids({ ...EVERYTHING, higher: false })).toEqual(["broken", "stands"]);
  });
  it("is what is chosen in any case", () => {
    expect(ids({ without: ["level"], higher: false, dead: false }, ["broken", "hidden"])).toEqual(["broken", "hidden"]);
  });
  it("is a bar that is still being made until its close is over", () => {
    const close = series.time[3] + DAY;
    expect(isUnfinished(on, close - 1)).toBe(true);
    expect(isUnfinished(on, close)).toBe(false);
  });
  it("has room ahead dated by the bars to come, none without bars", () => {
    expect(ahead(on, 3)).toEqual([1, 2, 3].map((n) => series.time[3] + n * DAY));
    expect(ahead({ ...on, series: days() }, 3)).toEqual([]);
    expect(isUnfinished({ ...on, series: days() }, 0)).toBe(false);
  });
});
