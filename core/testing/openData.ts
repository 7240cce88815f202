import { readFileSync } from "node:fs";
import { fromBars, type Bar, type Series } from "#core/series/series";

/** Daily bars of an index in 2000 to 2010, open data carried by the vega-datasets package. Read only in tests. */
export const SP500_FILE = "node_modules/vega-datasets/data/sp500-2000.csv";

export function sp500(): Series {
  const [, ...lines] = readFileSync(SP500_FILE, "utf8").trim().split("\n");
  return fromBars(
    lines.map((line): Bar => {
      const [date, open, high, low, close, , volume] = line.split(",");
      return { time: Date.parse(date), open: +open, high: +high, low: +low, close: +close, volume: +volume };
    }),
  );
}

/** Bars by hand: [open, high, low, close], a day apart. */
export function days(...bars: [number, number, number, number][]): Series {
  return fromBars(
    bars.map(([open, high, low, close], i) => ({ time: Date.UTC(2024, 0, 1 + i), open, high, low, close, volume: 1 })),
  );
}

/** A series a price may take, from numbers a property test draws: each bar opens where the last one closed. */
export function walk(steps: readonly [number, number, number][], start = 100): Series {
  let price = start;
  return fromBars(
    steps.map(([move, above, below], i) => {
      const open = price;
      price = Math.max(1, Math.round((price + move) * 4) / 4);
      const high = Math.max(open, price) + Math.abs(above);
      const low = Math.max(0.25, Math.min(open, price) - Math.abs(below));
      return { time: Date.UTC(2024, 0, 1 + i), open, high, low: Math.min(low, open, price), close: price, volume: 1 };
    }),
  );
}
