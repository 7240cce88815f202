import { pivotsOf } from "#core/levels/pivots";
import { labelAt } from "#core/levels/periodExtremes";
import { isParameter, parameterType } from "#core/studies/params";
import { STUDIES } from "#core/studies/registry";
import { columnsOf, type Study, type StudyContext, type StudyParameter, type StudyParams } from "#core/studies/study";
import { RequestFault } from "./fault.ts";
import { oneOf, raw, readNumber, type Parameter } from "./parameters.ts";
import { rowsOf, timeText, type Params, type Quantity } from "./quantity.ts";
import { derive, readMoment, readOther, readPeriod, type Input } from "./request.ts";

/** How a parameter of a study is read from a request. */
export function parameterOf(parameter: StudyParameter): Parameter {
  const { name, kind } = parameter;
  if (kind === "choice") return oneOf(name, parameter.of, parameter.fallback);
  if (kind === "market") return raw(name, "{ file, timeframe, timezone }");
  if (kind === "time") return raw(name, "ISO 8601 date or time", parameter.fallback);
  const type = parameterType(parameter);
  if (kind === "period") return raw(name, type, parameter.fallback);
  return {
    ...{ name, type, fallback: parameter.fallback },
    read(value) {
      if (kind === "number") readNumber(value, name);
      if (!isParameter(parameter, value)) throw new RequestFault(`"${name}" must be a ${type}.`);
      return value;
    },
  };
}

/** Times, other markets and periods of a request, as a study takes them. */
function given(study: Study, params: Params, input: Input): { params: StudyParams; context: StudyContext } {
  const read: Record<string, number | string> = {};
  const context: StudyContext = {
    // Asked for only where it counts: it is found by looking at every price.
    get tick() {
      return input.tick();
    },
  };
  for (const { name, kind } of study.parameters) {
    const value = params[name];
    if (kind === "market") context.other = readOther(value, input);
    else if (kind === "period") context.periodAt = periodsOf(value, name, input);
    else if (kind !== "time") read[name] = value as number | string;
    else if (value !== "first") read[name] = readMoment(value, name, input.zone);
  }
  return { params: read, context };
}

/** The period a bar falls into, by its label; a fault where the bars do not make it up. */
function periodsOf(value: unknown, name: string, { timeframe, calendar }: Input): (time: number) => number {
  const period = readPeriod(value, name, timeframe);
  let [label, until] = [NaN, -Infinity];
  return (time) => {
    if (time >= until) ({ time: label, until } = labelAt(time, timeframe, period, calendar));
    return label;
  };
}

function quantityOf(study: Study): Quantity {
  const flags = study.lines.flatMap(({ name, unit }) => (unit === "flag" ? [name] : []));
  return {
    name: study.name,
    says: study.says,
    parameters: study.parameters.map(parameterOf),
    fields: ["time", ...study.lines.map(({ name }) => name)],
    values(asked, input) {
      const { params, context } = given(study, asked, input);
      const columns = columnsOf(study, params, input.series, context);
      const named = Object.fromEntries(study.lines.map(({ name }, i) => [name, columns[i]]));
      const rows = rowsOf(named, input.series.time, input.timeframe);
      return flags.length === 0
        ? rows
        : rows.map((row) => ({ ...row, ...Object.fromEntries(flags.map((flag) => [flag, row[flag] === 1])) }));
    },
  };
}

/** Every study of the registry, and what stands beside them. */
export const studies: readonly Quantity[] = [
  ...STUDIES.map(quantityOf),
  {
    name: "pivots",
    says: "classic pivots of the period before, at the start of the period they hold for",
    parameters: [raw("period", "ISO 8601 duration of a day or longer", "P1M")],
    fields: ["time", "P", "R1", "R2", "R3", "S1", "S2", "S3"],
    values({ period }, { series, timeframe, calendar }) {
      const target = readPeriod(period, "period", timeframe);
      const { length, time, high, low, close } = derive(series, timeframe, target, calendar);
      return Array.from({ length: Math.max(0, length - 1) }, (_, i) => ({
        time: timeText(time[i + 1], target),
        ...pivotsOf({ high: high[i], low: low[i], close: close[i] }),
      }));
    },
  },
];
