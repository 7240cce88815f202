import { CANDLE_RULES, CANDLES, candlesAt, type CandleName, type CandleRules } from "#core/candles/candles";
import { RequestFault } from "./fault.ts";
import { readNumber, type Parameter } from "./parameters.ts";
import { timeText, type Quantity } from "./quantity.ts";

function share(name: keyof CandleRules, above = 0): Parameter {
  return {
    ...{ name, type: `number above ${above}, at most 1`, fallback: CANDLE_RULES[name] },
    read(value) {
      const read = readNumber(value, name);
      if (!(read > above && read <= 1)) throw new RequestFault(`"${name}" must be above ${above} and at most 1.`);
      return read;
    },
  };
}

/** All but what was named last: who asks for none by name gets what they always got. */
const USUAL = CANDLES.filter((name) => name !== "shaven");

const NAMES: Parameter = {
  ...{ name: "patterns", type: `list of ${CANDLES.join(", ")}`, fallback: USUAL },
  read(value) {
    if (!Array.isArray(value) || value.length === 0 || value.some((name) => !CANDLES.includes(name as CandleName)))
      throw new RequestFault(`"patterns" must be a list of ${CANDLES.join(", ")}.`);
    return value;
  },
};

/** Candles that say something where they stand. */
export const candles: readonly Quantity[] = [
  {
    name: "candles",
    says: "candles, alone and in a row, by stated shares (common practice); they say something at a place alone",
    parameters: [share("body"), share("wick", 0.5), share("long"), share("star"), NAMES],
    fields: ["time", "pattern", "direction", "from"],
    values({ body, wick, long, star, patterns }, { series, timeframe, tick }) {
      const asked = {
        rules: { ...CANDLE_RULES, body, wick, long, star } as CandleRules,
        names: patterns as readonly CandleName[],
      };
      const step = series.length > 0 ? tick() : 1;
      return Array.from({ length: series.length }, (_, i) => candlesAt(series, i, step, asked))
        .flat()
        .map(({ name, way, from, at }) => ({
          time: timeText(series.time[at], timeframe),
          pattern: name,
          ...(way === undefined ? {} : { direction: way }),
          from: timeText(series.time[from], timeframe),
        }));
    },
  },
];
