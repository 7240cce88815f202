import type { Study } from "#core/studies/study";

/** Candles of averages: each opens half way through the one before and closes at the mean of its bar. */
export const heikinAshiStudy: Study = {
  name: "heikinAshi",
  title: "Average candles",
  short: "Average candles",
  says: "candles of averages: open half way through the one before, close at the mean of the bar",
  source: "common practice",
  parameters: [],
  lines: [
    { name: "open", unit: "price" },
    { name: "high", unit: "price" },
    { name: "low", unit: "price" },
    { name: "close", unit: "price" },
  ],
  place: "own",
  candles: true,
  main: "close",
  begin() {
    const out = [NaN, NaN, NaN, NaN];
    return (bars, i) => {
      const [o, h, l, c] = [bars.open[i], bars.high[i], bars.low[i], bars.close[i]];
      const open = i === 0 ? (o + c) / 2 : (out[0] + out[3]) / 2;
      const close = (o + h + l + c) / 4;
      [out[0], out[1], out[2], out[3]] = [open, Math.max(h, open, close), Math.min(l, open, close), close];
      return out;
    };
  },
};
