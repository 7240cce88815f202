import { isIntraday, type Timeframe } from "#core/time/timeframe";
import type { Parameter } from "./parameters.ts";
import type { Input } from "./request.ts";

export type Params = Record<string, unknown>;

export interface Quantity {
  name: string;
  says: string;
  parameters: Parameter[];
  fields: string[];
  /** Whether it can be asked without bars. */
  withoutBars?: boolean;
  values(params: Params, input: Input): Params[];
}

/** A time as it is written out: a date from a day up, otherwise an instant in UTC. */
export function timeText(time: number, timeframe: Timeframe): string {
  const text = new Date(time).toISOString();
  return isIntraday(timeframe) ? text.replace(".000Z", "Z") : text.slice(0, 10);
}

/** Columns beside each other: a row appears as soon as one of them is defined, and what is not is absent. */
export function rowsOf(
  columns: Readonly<Record<string, Float64Array>>,
  time: Float64Array,
  timeframe: Timeframe,
): Params[] {
  const out: Params[] = [];
  const named = Object.entries(columns);
  for (let i = 0; i < time.length; i++) {
    const defined = named.filter(([, column]) => !Number.isNaN(column[i]));
    if (defined.length > 0)
      out.push({
        time: timeText(time[i], timeframe),
        ...Object.fromEntries(defined.map(([name, column]) => [name, column[i]])),
      });
  }
  return out;
}
