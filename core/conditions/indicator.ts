import {
  ABOUT_NONE,
  closesOf,
  metBy,
  OF_BAR,
  type Condition,
  type Judged,
  type Look,
} from "#core/conditions/condition";
import type { Fields } from "#core/conditions/fields";
import { meterName, type MeterTerms } from "#core/observe/meter";
import type { Need } from "#core/observe/tape";
import { rungWord } from "#core/marks/wording";

/** A close on one side of an average. */
export interface AverageTerms {
  on: "average";
  of: MeterTerms;
  side: "above" | "below";
  rung?: string;
}

/** An oscillator above or below a value at a close; of `macd` its difference from its signal. */
export interface OscillatorTerms {
  on: "oscillator";
  of: MeterTerms;
  above?: number;
  below?: number;
  rung?: string;
}

/** A close above, below or inside the cloud that stands at the bar. */
export interface CloudTerms {
  on: "cloud";
  of: MeterTerms;
  side: "above" | "below" | "inside";
  rung?: string;
}

const needOf = ({ of, rung }: { of: MeterTerms; rung?: string }): Need[] => [{ rung, of: "meter", meter: of }];

/** Judges what was measured at every close of the rung; before there are bars enough nothing is known. */
function judge(
  { of, rung }: { of: MeterTerms; rung?: string },
  look: Look,
  isMet: (values: readonly number[], close: number) => boolean,
): { state: null; judged: Judged[] } {
  const name = meterName(of);
  const judged = closesOf(look, rung).map((close): Judged => {
    const values = close.measured?.get(name);
    return { ...(values ? { met: isMet(values, close.bar.close) } : {}), by: metBy(close, rung) };
  });
  return { state: null, judged };
}

export const average: Condition<AverageTerms, null> = {
  on: "average",
  read: (fields) => ({
    on: "average",
    of: readMeter(fields, ["sma", "ema", "wma"]),
    side: fields.oneOf("side", ["above", "below"]),
    ...fields.rung(),
  }),
  needs: needOf,
  start: () => null,
  next: (terms, _state, look) =>
    judge(terms, look, ([value], close) => (terms.side === "above" ? 1 : -1) * (close - value) > look.tolerance),
  binds: () => OF_BAR,
  ...ABOUT_NONE,
  say: ({ of, side, rung }) => `a ${rungWord(rung)} closes ${side} its ${meterText(of)}`,
};

export const oscillator: Condition<OscillatorTerms, null> = {
  on: "oscillator",
  read(fields) {
    if (!fields.has("above") && !fields.has("below")) fields.fault("above", `is wanted, or "below"`);
    return {
      on: "oscillator",
      of: readMeter(fields, ["rsi", "stochastic", "macd"]),
      ...(fields.has("above") ? { above: fields.number("above", -Infinity) } : {}),
      ...(fields.has("below") ? { below: fields.number("below", -Infinity) } : {}),
      ...fields.rung(),
    };
  },
  needs: needOf,
  start: () => null,
  next: (terms, _state, look) =>
    judge(terms, look, ([value, signal = 0]) => {
      const at = value - signal;
      return (terms.above === undefined || at > terms.above) && (terms.below === undefined || at < terms.below);
    }),
  binds: () => OF_BAR,
  ...ABOUT_NONE,
  say({ of, above, below, rung }) {
    const bounds = [above === undefined ? "" : `above ${above}`, below === undefined ? "" : `below ${below}`];
    return `the ${meterText(of)} stands ${bounds.filter(Boolean).join(" and ")} at a close of a ${rungWord(rung)}`;
  },
};

export const cloud: Condition<CloudTerms, null> = {
  on: "cloud",
  read: (fields) => ({
    on: "cloud",
    of: readMeter(fields, ["cloud"]),
    side: fields.oneOf("side", ["above", "below", "inside"]),
    ...fields.rung(),
  }),
  needs: needOf,
  start: () => null,
  next: (terms, _state, look) =>
    judge(terms, look, ([bottom, top], close) => {
      const side = close - top > look.tolerance ? "above" : bottom - close > look.tolerance ? "below" : "inside";
      return side === terms.side;
    }),
  binds: () => OF_BAR,
  ...ABOUT_NONE,
  say: ({ side, rung }) => `a ${rungWord(rung)} closes ${side} the cloud`,
};

/** Parameters as the command's quantity of that name has them, with its defaults. */
function readMeter(fields: Fields, known: readonly MeterTerms["quantity"][]): MeterTerms {
  const own = fields.at(fields.take("of") ?? (known.length === 1 ? { quantity: known[0] } : undefined), "of");
  const quantity = own.oneOf("quantity", known);
  const count = (name: string, usual?: number) => own.whole(name, 1, 2000, usual);
  const read = (): MeterTerms => {
    switch (quantity) {
      case "macd":
        return { quantity, fast: count("fast", 12), slow: count("slow", 26), signal: count("signal", 9) };
      case "stochastic":
        return { quantity, period: count("period", 14), smoothing: count("smoothing", 3) };
      case "cloud":
        return { quantity, conversion: count("conversion", 9), base: count("base", 26), span: count("span", 52) };
      default:
        return { quantity, period: count("period") };
    }
  };
  const terms = read();
  own.done();
  return terms;
}

function meterText(of: MeterTerms): string {
  switch (of.quantity) {
    case "macd":
      return `MACD (${of.fast}, ${of.slow}, ${of.signal}) less its signal`;
    case "stochastic":
      return `stochastic of ${of.period}`;
    case "cloud":
      return "cloud";
    case "rsi":
      return `RSI of ${of.period}`;
    default:
      return `${{ sma: "simple", ema: "exponential", wma: "weighted" }[of.quantity]} average of ${of.period}`;
  }
}
