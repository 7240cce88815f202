import { describe, expect, it } from "vitest";
import { Market } from "../database/models.ts";
import { addHolidays } from "../bars/settings.ts";
import { anAnalyst, confirmation, failureOf, upload, withTables } from "../testing.ts";
import { importUpload } from "./import.ts";

withTables();

const DAY = 86_400_000;
const START = Date.UTC(2024, 0, 1);
const dates = (count: number, without: readonly number[]) =>
  Array.from({ length: count }, (_, i) => i).filter((i) => !without.includes(i));
const file = (days: readonly number[]) =>
  [
    "date,open,high,low,close",
    ...days.map((day) => `${new Date(START + day * DAY).toISOString().slice(0, 10)},10,11,9,10`),
  ].join("\n");

async function imported(days: readonly number[], kind: "share" | "index" | "other" = "share") {
  const { id } = await anAnalyst();
  return importUpload(await upload(file(days), id), confirmation({ kind }), id);
}

describe("days on which everybody stood still", () => {
  it("are holidays to be confirmed, where no market of the zone and kind traded; the others stay gaps", async () => {
    // The first of its kind: nobody traded on what it lacks.
    expect(await imported(dates(20, [4, 9]))).toMatchObject({
      holidays: ["2024-01-05", "2024-01-10"],
      gaps: { count: 0 },
    });
    // The second lacks one of those as well, and one on which the first traded: a gap of its own.
    const second = await imported(dates(20, [9, 14]));
    expect(second).toMatchObject({ holidays: ["2024-01-10"], gaps: { count: 1 } });
    // Another kind is nobody's witness.
    expect(await imported(dates(20, [14]), "index")).toMatchObject({ holidays: ["2024-01-15"], gaps: { count: 0 } });
    const before = await Market.findByPk(second.market);
    await addHolidays(second.market, second.holidays ?? []);
    const market = await Market.findByPk(second.market);
    expect(market?.calendar.holidays).toEqual(["2024-01-10"]);
    expect(market?.history).toBe((before?.history ?? 0) + 1);
    expect(await failureOf(addHolidays(second.market, ["2024-02-31"]))).toMatchObject({ code: "calendar" });
  });
  it("days of the week on which it hardly ever trades are none", async () => {
    const weekends = [5, 6, 12, 13, 19, 20];
    expect(await imported(dates(28, [...weekends, 10]), "other")).toMatchObject({
      holidays: ["2024-01-11"],
      gaps: { count: 3 },
    });
  });
  it("a file without a day missing tells none", async () => {
    expect(await imported(dates(20, []))).not.toHaveProperty("holidays");
  });
});
