import { mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import Papa from "papaparse";
import readFile from "../server/tasks/readBars.ts";
import { millionBars } from "./core.ts";
import type { Side } from "./side.ts";
import { sized } from "./size.ts";

const FILE = "var/bench/bars.csv";
const ROWS = sized(200_000, 5_000);

/** Reading a file of bars, checked and in columns, against splitting it into cells alone. */
export function importSides(): Side[] {
  const series = millionBars(ROWS);
  const rows = Array.from({ length: ROWS }, (_, i) => {
    const time = new Date(series.time[i]).toISOString().slice(0, 19);
    return `${time},${series.open[i]},${series.high[i]},${series.low[i]},${series.close[i]},1`;
  });
  mkdirSync("var/bench", { recursive: true });
  writeFileSync(FILE, `time,open,high,low,close,volume\n${rows.join("\n")}\n`);
  return [
    {
      name: `reading a file of ${ROWS.toLocaleString("en")} bars`,
      ours: () => readFile({ path: FILE, options: { zone: "Asia/Tokyo" } }),
      other: () => Papa.parse(readFileSync(FILE, "utf8")),
      otherName: "splitting it into cells alone",
      pairs: 5,
    },
  ];
}

export function cleanImport(): void {
  rmSync("var/bench", { recursive: true, force: true });
}
