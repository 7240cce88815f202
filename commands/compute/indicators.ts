import { atr } from "#core/indicators/atr";
import { bollinger } from "#core/indicators/bollinger";
import { cloud } from "#core/indicators/cloud";
import { aligned, correlation } from "#core/indicators/correlation";
import { directionalMovement } from "#core/indicators/directionalMovement";
import { ema } from "#core/indicators/ema";
import { macd } from "#core/indicators/macd";
import { moneyFlow } from "#core/indicators/moneyFlow";
import { rsi } from "#core/indicators/rsi";
import { sma } from "#core/indicators/sma";
import { stochastic } from "#core/indicators/stochastic";
import { wma } from "#core/indicators/wma";
import { pivotsOf } from "#core/levels/pivots";
import { COLUMNS, type Column } from "#core/series/series";
import { divides, isIntraday } from "#core/time/timeframe";
import { RequestFault } from "./fault.ts";
import { number, oneOf, raw, whole, type Parameter } from "./parameters.ts";
import { rowsOf, timeText, type Params, type Quantity } from "./quantity.ts";
import { derive, readOther, readTimeframeField, type Input } from "./request.ts";

const OF = oneOf("of", COLUMNS.slice(1), "close");

/** A quantity that is one or more columns as long as the bars. */
function columns(
  name: string,
  says: string,
  parameters: Parameter[],
  fields: string[],
  compute: (params: Params, input: Input) => Readonly<Record<string, Float64Array>>,
): Quantity {
  return {
    name,
    says,
    parameters,
    fields: ["time", ...fields],
    values: (params, input) => rowsOf(compute(params, input), input.series.time, input.timeframe),
  };
}

function average(
  name: string,
  says: string,
  compute: (values: Float64Array, period: number) => Float64Array,
): Quantity {
  return columns(name, says, [whole("period"), OF], ["value"], ({ period, of }, { series }) => ({
    value: compute(series[of as Column], period as number),
  }));
}

export const indicators: readonly Quantity[] = [
  average("sma", "simple moving average", sma),
  average("ema", "exponential moving average, seeded with the mean of the first values", ema),
  average("wma", "weighted moving average, the newest value the heaviest", wma),
  average("rsi", "relative strength index, 0 to 100 (Wilder 1978)", rsi),
  // "of" is taken for the sake of one shape with the averages; ranges and flows are always of high, low and close.
  columns(
    "atr",
    "average true range in price units (Wilder 1978)",
    [whole("period", 14), OF],
    ["value"],
    ({ period }, { series }) => ({ value: atr(series, period as number) }),
  ),
  columns(
    "moneyFlow",
    "money flow index, 0 to 100",
    [whole("period", 14), OF],
    ["value"],
    ({ period }, { series, tick }) => ({ value: moneyFlow(series, period as number, tick()) }),
  ),
  columns(
    "macd",
    "a fast less a slow exponential average of the close, and its own average",
    [whole("fast", 12), whole("slow", 26), whole("signal", 9)],
    ["macd", "signal", "histogram"],
    ({ fast, slow, signal }, { series }) => ({
      ...macd(series.close, fast as number, slow as number, signal as number),
    }),
  ),
  columns(
    "directionalMovement",
    "directional indicators and their average index, 0 to 100 (Wilder 1978)",
    [whole("period", 14)],
    ["plus", "minus", "adx"],
    ({ period }, { series, tick }) => ({
      ...directionalMovement(series, period as number, tick()),
    }),
  ),
  columns(
    "bollinger",
    "a simple average and bands in population deviations about it",
    [whole("period", 20), number("deviations", 2)],
    ["middle", "upper", "lower"],
    ({ period, deviations }, { series }) => ({
      ...bollinger(series.close, period as number, deviations as number),
    }),
  ),
  columns(
    "stochastic",
    "where the close stands in the range, 0 to 100, smoothed, and its average",
    [whole("period", 14), whole("smoothing", 3), whole("signal", 3)],
    ["k", "d"],
    ({ period, smoothing, signal }, { series }) =>
      stochastic(series, period as number, smoothing as number, signal as number),
  ),
  columns(
    "cloud",
    "middles of ranges, each at the bar it is computed on (Hosoda 1969)",
    [whole("conversion", 9), whole("base", 26), whole("span", 52)],
    ["conversion", "base", "spanA", "spanB"],
    ({ conversion, base, span }, { series }) => ({
      ...cloud(series, conversion as number, base as number, span as number),
    }),
  ),
  {
    name: "pivots",
    says: "classic pivots of the period before, at the start of the period they hold for",
    parameters: [raw("period", "ISO 8601 duration of a day or longer", "P1M")],
    fields: ["time", "P", "R1", "R2", "R3", "S1", "S2", "S3"],
    values({ period }, { series, timeframe, calendar }) {
      const target = readTimeframeField(period, "period");
      if (isIntraday(target) || !divides(timeframe, target))
        throw new RequestFault(`"period" must be a day or longer, and one that the bars make up.`);
      const { length, time, high, low, close } = derive(series, timeframe, target, calendar);
      return Array.from({ length: Math.max(0, length - 1) }, (_, i) => ({
        time: timeText(time[i + 1], target),
        ...pivotsOf({ high: high[i], low: low[i], close: close[i] }),
      }));
    },
  },
  {
    name: "correlation",
    says: "rolling correlation (Pearson) of simple returns with another file, on the times both have",
    parameters: [raw("with", "{ file, timeframe, timezone }"), whole("period", 65)],
    fields: ["time", "value"],
    values({ with: other, period }, input) {
      const { time, a, b } = aligned(input.series, readOther(other, input));
      return rowsOf({ value: correlation(a, b, period as number) }, time, input.timeframe);
    },
  },
];
