import { randomUUID } from "node:crypto";
import type { Mark } from "#core/marks/kind";
import { readMark } from "#core/marks/registry";
import { lastAtOrBefore, type Series } from "#core/series/series";
import { seriesOf } from "../server/bars/series.ts";
import type { Market } from "../server/database/models.ts";
import type { PlantedWave } from "./waves.ts";

/** A count of a wave that prices were made from, as far as it has come: its turns at bars of the rung. */
export async function countOf(
  market: Market,
  wave: PlantedWave,
  rung: "P1W" | "P1D",
  degree: string,
  author: string,
): Promise<Mark> {
  const days = await seriesOf(market, "P1D");
  const own = rung === "P1D" ? days : await seriesOf(market, rung);
  const at = (day: number) => lastAtOrBefore(own, days.time[Math.min(days.length - 1, Math.floor(day))]);
  const finished = wave.children.filter(({ end }) => end.day < days.length - 2).slice(0, 5);
  const rising = wave.end.log > wave.start.log;
  const anchors = [wave.start, ...finished.map(({ end }) => end)].map(({ day }, i) =>
    pivotAt(own, at(day), (i % 2 === 1) === rising, rung === "P1W" ? 1 : 2),
  );
  const read = readMark({
    ...{ id: randomUUID(), kind: "count", market: market.id, rung, anchors },
    ...{ props: { degree, scale: "log" }, note: "", author, version: 0 },
  });
  if (typeof read === "string") throw new Error(read);
  return read;
}

/** The wave within a wave that is under way at the last day. */
export async function runningWave(market: Market, truth: PlantedWave): Promise<PlantedWave> {
  const { length } = await seriesOf(market, "P1D");
  return truth.children.find(({ start, end }) => start.day < length && end.day >= length) ?? truth;
}

/** The bar and price at which a planted turn was traded: the extreme of the days about it. */
function pivotAt(series: Series, middle: number, top: boolean, near: number): { time: number; price: number } {
  let best = middle;
  for (let i = Math.max(0, middle - near); i <= Math.min(series.length - 1, middle + near); i++)
    if (top ? series.high[i] > series.high[best] : series.low[i] < series.low[best]) best = i;
  return { time: series.time[best], price: top ? series.high[best] : series.low[best] };
}
