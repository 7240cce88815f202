import { rangesExpected } from "#core/levels/rangeExpected";
import { cycleOf } from "#core/projections/cycles";
import { measuredMove } from "#core/projections/measuredMove";
import { timeRatios } from "#core/projections/timeRatios";
import { closeOfBar } from "#core/series/resample";
import { aligned, returns } from "#core/studies/correlation";
import { divergencesOf } from "#core/studies/divergences";
import { leadLag } from "#core/studies/leadLag";
import { studyOf } from "#core/studies/registry";
import { columnsOf, type Study, type StudyParams } from "#core/studies/study";
import { swings } from "#core/structure/swings";
import { RequestFault } from "./fault.ts";
import { notNegative, oneOf, orFault, raw, readNumber, readPoint, whole, type Parameter } from "./parameters.ts";
import { timeText, type Params, type Quantity } from "./quantity.ts";
import { asFields, derive, readMoment, readOther, readPeriod, type Input } from "./request.ts";
import { parameterOf } from "./studies.ts";

/** A list of numbers above 0. */
function above0List(name: string, fallback: readonly number[]): Parameter {
  return {
    name,
    type: "list of numbers above 0",
    fallback,
    read(value) {
      if (!Array.isArray(value) || value.length === 0) throw new RequestFault(`"${name}" must be a list of numbers.`);
      return value.map((one) => above0(one, name));
    },
  };
}

function above0(value: unknown, name: string): number {
  const read = readNumber(value, name);
  if (read <= 0) throw new RequestFault(`"${name}" must be above 0.`);
  return read;
}

function within(name: string, fallback: number, least: number, most: number): Parameter {
  return {
    name,
    type: `number from ${least} to ${most}`,
    fallback,
    read(value) {
      const read = readNumber(value, name);
      if (read < least || read > most) throw new RequestFault(`"${name}" must be from ${least} to ${most}.`);
      return read;
    },
  };
}

/** Oscillators that swings are compared by. */
const OSCILLATORS = [
  ...["rsi", "macd", "stochastic", "moneyFlow"],
  ...["commodityChannel", "rateOfChange", "williamsR", "onBalanceVolume"],
];
const READ_FIRST = ["value", "macd", "k"];

/** The oscillator that is named, over the bars of the request. */
function oscillator(of: unknown, field: unknown, input: Input): Float64Array {
  const { quantity, ...asked } = asFields(of, "of");
  const study = OSCILLATORS.includes(String(quantity)) ? studyOf(String(quantity)) : undefined;
  if (!study) throw new RequestFault(`"of.quantity" must be one of ${OSCILLATORS.join(", ")}.`);
  const names = study.lines.map(({ name }) => name);
  const name = field === "" ? names.find((one) => READ_FIRST.includes(one)) : field;
  const at = names.indexOf(String(name));
  if (at < 0) throw new RequestFault(`"field" must be one of ${names.join(", ")}.`);
  const context = {
    get tick() {
      return input.tick();
    },
  };
  return columnsOf(study, paramsOf(study, asked), input.series, context)[at];
}

function paramsOf(study: Study, asked: Params): StudyParams {
  const stray = Object.keys(asked).find((name) => !study.parameters.some((one) => one.name === name));
  if (stray !== undefined) throw new RequestFault(`"of" has no field "${stray}".`);
  return Object.fromEntries(
    study.parameters.map((parameter) => {
      const { name, fallback, read } = parameterOf(parameter);
      const value = asked[name] ?? fallback;
      if (value === undefined) throw new RequestFault(`"of" needs "${name}".`);
      return [name, read(value, name) as number | string];
    }),
  );
}

/** Bars of a longer period, and how many of them the calendar has closed by the last bar's close. */
function periodsOf(value: unknown, name: string, { series, timeframe, calendar }: Input) {
  const period = readPeriod(value, name, timeframe);
  const periods = derive(series, timeframe, period, calendar);
  const last = periods.length - 1;
  const isClosed =
    last >= 0 &&
    closeOfBar(periods.time[last], period, calendar) <= closeOfBar(series.time[series.length - 1], timeframe, calendar);
  return { period, periods, complete: isClosed ? last + 1 : Math.max(0, last) };
}

function troughsOf({ troughs, k }: Params, { series, zone }: Input) {
  if (troughs === "swings")
    return swings(series, k as number, "none").flatMap(({ side, index, knownAt }) =>
      side === "low" ? [{ index, knownAt }] : [],
    );
  if (!Array.isArray(troughs) || troughs.length < 2)
    throw new RequestFault('"troughs" must be a list of two labels of bars or more.');
  const at = new Map(Array.from(series.time, (time, i) => [time, i]));
  return troughs.map((value, n) => {
    const index = at.get(readMoment(value, `troughs[${n}]`, zone));
    if (index === undefined) throw new RequestFault(`"troughs[${n}]" is the label of no bar.`);
    return { index, knownAt: index };
  });
}

const FROM_0 = { name: "window", kind: "whole", least: 0, most: 1e7, fallback: 4 } as const;

/** What is measured between swings, bars and markets. */
export const measured: readonly Quantity[] = [
  {
    name: "leadLag",
    says: "cross-correlation of simple returns with another file: which market moves first",
    parameters: [
      raw("with", "{ file, timeframe, timezone }"),
      parameterOf({ name: "lags", kind: "whole", least: 1, most: 500, fallback: 10 }),
    ],
    fields: ["lag", "value", "n", "band", "outside"],
    values({ with: other, lags }, input) {
      const { a, b } = aligned(input.series, readOther(other, input));
      return leadLag(returns(a).subarray(1), returns(b).subarray(1), lags as number).map((row) => ({ ...row }));
    },
  },
  {
    name: "divergences",
    says: "swings at which price and an oscillator moved apart",
    parameters: [
      whole("k", 3),
      raw("of", "{ quantity, its parameters }", { quantity: "rsi", period: 14 }),
      raw("field", "one of its fields", ""),
      whole("longest", 60),
    ],
    fields: ["time", "kind", "direction", "from", "to", "bars", "knownAt"],
    values({ k, of, field, longest }, input) {
      const { series, timeframe } = input;
      const at = <T extends { time: number }>(point: T) => ({ ...point, time: timeText(point.time, timeframe) });
      const values = oscillator(of, field, input);
      return divergencesOf(series, values, { k: k as number, longest: longest as number, tick: input.tick() }).map(
        (found) => ({
          ...found,
          time: timeText(found.time, timeframe),
          from: at(found.from),
          to: at(found.to),
          knownAt: timeText(found.knownAt, timeframe),
        }),
      );
    },
  },
  {
    name: "measuredMove",
    says: "multiples of a leg laid off from a third point, and the bar that reached each",
    parameters: [
      ...["a", "b", "c"].map((name) => raw(name, "{ time, price }")),
      above0List("ratios", [0.618, 1, 1.618, 2.618]),
      oneOf("scale", ["arithmetic", "log"], "arithmetic"),
      notNegative("tolerance", 0),
    ],
    fields: ["ratio", "price", "change", "metAt", "bars"],
    withoutBars: true,
    values({ a, b, c, ratios, scale, tolerance }, input) {
      const [from, to, origin] = [a, b, c].map((point, i) => readPoint(point, "abc"[i], input.zone));
      const move = {
        ...{ a: from, b: to, c: origin, ratios: ratios as number[] },
        ...{ scale: scale as "arithmetic" | "log", tolerance: tolerance as number },
      };
      const { series } = input;
      const rows = orFault(() => measuredMove(move, series, series.length > 0 ? input.tick() : 0));
      return rows.map(({ metAt, ...row }) => ({
        ...row,
        ...(metAt === undefined ? {} : { metAt: timeText(metAt, input.timeframe) }),
      }));
    },
  },
  {
    name: "timeRatios",
    says: "multiples of a leg's bars counted from a third bar",
    parameters: [
      ...["a", "b", "c"].map((name) => raw(name, "ISO 8601 date or time")),
      above0List("ratios", [0.382, 0.5, 0.618, 1, 1.618, 2, 2.618]),
    ],
    fields: ["ratio", "bars", "time", "ahead"],
    values({ a, b, c, ratios }, { series, timeframe, zone }) {
      const [from, to, origin] = [a, b, c].map((time, i) => readMoment(time, "abc"[i], zone));
      return orFault(() => timeRatios({ a: from, b: to, c: origin }, ratios as number[], series)).map(
        ({ time, ...row }) => ({ ...row, ...(time === undefined ? {} : { time: timeText(time, timeframe) }) }),
      );
    },
  },
  {
    name: "cycles",
    says: "spans from trough to trough, how far off each was, and when the next is due",
    parameters: [raw("troughs", "list of labels of bars", "swings"), whole("k", 10), parameterOf(FROM_0)],
    fields: ["troughs", "n", "period", "next"],
    values(params, input) {
      const { series, timeframe } = input;
      const troughs = troughsOf(params, input);
      if (troughs.some(({ index }, n) => n > 0 && index <= troughs[n - 1].index))
        throw new RequestFault('"troughs" must rise.');
      const cycle = cycleOf(series, troughs, params.window as number);
      const text = (time: number) => timeText(time, timeframe);
      return [
        {
          ...cycle,
          troughs: cycle.troughs.map(({ time, knownAt, peak, ...trough }) => ({
            ...{ time: text(time), ...trough, knownAt: text(knownAt) },
            ...(peak ? { peak: { ...peak, time: text(peak.time) } } : {}),
          })),
        },
      ];
    },
  },
  {
    name: "expectedRange",
    says: "the range of the coming period by those of the last ones",
    parameters: [
      raw("period", "ISO 8601 duration of a day or longer", "P1W"),
      whole("n", 20),
      within("percentile", 0.8, 0, 1),
      oneOf("from", ["close", "open"], "close"),
      parameterOf({ name: "reach", kind: "number", above: 0, fallback: 1 }),
    ],
    fields: [...["time", "for", "mean", "wide", "reference"], ...["upper", "lower", "wideUpper", "wideLower"]],
    values({ period: asked, n, percentile, from, reach }, input) {
      const { period, periods, complete } = periodsOf(asked, "period", input);
      const ask = { n: n as number, percentile: percentile as number, from: from as "close", reach: reach as number };
      return rangesExpected(periods, complete, ask).map(({ time, for: next, ...row }) => ({
        time: timeText(time, period),
        ...(next === undefined ? {} : { for: timeText(next, period) }),
        ...row,
      }));
    },
  },
];
