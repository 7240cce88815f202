import { recordOf, type Outcome, type RecordStatistics } from "#core/record/statistics";
import { RequestFault } from "./fault.ts";
import { oneOf, raw, readNumber, whole } from "./parameters.ts";
import type { Params, Quantity } from "./quantity.ts";
import { asFields, readInstant, type Fields } from "./request.ts";

/** What outcomes may be told apart by. */
const BY = ["kind", "market", "horizon", "rank", "analyst", "edition", "session"] as const;
const FIELDS = ["triggered", "r", "weight", "ambiguous", "at", "end", ...BY];

function flag(value: unknown, name: string, fallback?: boolean): boolean {
  if (value === undefined && fallback !== undefined) return fallback;
  if (typeof value !== "boolean") throw new RequestFault(`"${name}" must be true or false.`);
  return value;
}

function readOutcome(value: unknown, i: number, zone: string): Outcome & { fields: Fields } {
  const name = `outcomes[${i}]`;
  const fields = asFields(value, name, FIELDS);
  const triggered = flag(fields.triggered, `${name}.triggered`);
  const r = fields.r === undefined ? undefined : readNumber(fields.r, `${name}.r`);
  if (r !== undefined && !triggered) throw new RequestFault(`"${name}" has "r" without having been triggered.`);
  const weight = fields.weight === undefined ? undefined : readNumber(fields.weight, `${name}.weight`);
  if (weight !== undefined && !(weight >= 0 && weight <= 1))
    throw new RequestFault(`"${name}.weight" must be from 0 to 1.`);
  const at = readInstant(fields.at, `${name}.at`, zone);
  const end = fields.end === undefined ? undefined : readInstant(fields.end, `${name}.end`, zone);
  if (r !== undefined && end === undefined) throw new RequestFault(`"${name}" has "r" and needs "end".`);
  if (end !== undefined && end < at) throw new RequestFault(`"${name}.end" must not be before "at".`);
  for (const text of BY)
    if (fields[text] !== undefined && typeof fields[text] !== "string")
      throw new RequestFault(`"${name}.${text}" must be text.`);
  return {
    ...{ triggered, at, fields, ambiguous: flag(fields.ambiguous, `${name}.ambiguous`, false) },
    ...(r === undefined ? {} : { r }),
    ...(weight === undefined ? {} : { weight }),
    ...(end === undefined ? {} : { end }),
  };
}

const told = ({ curve, ...statistics }: RecordStatistics): Params => ({
  ...statistics,
  curve: curve.map(({ time, r }) => ({ time: new Date(time).toISOString().replace(".000Z", "Z"), r })),
});

/** What a list of outcomes comes to. */
export const record: Quantity = {
  name: "record",
  says: "figures over outcomes of calls: shares and means with intervals, the curve in R, calibration of weights",
  parameters: [
    raw("outcomes", "list of { triggered, r, weight, ambiguous, at, end, kind, market, ... }"),
    oneOf("by", ["", ...BY], ""),
    oneOf("event", ["triggered", "hit"], "triggered"),
    whole("seed", 1),
  ],
  fields: [
    ...["key", "stated", "neverTriggered", "n", "hits", "hitRate", "hitInterval", "mean", "median", "deviation"],
    ...["interval", "profitFactor", "ambiguous", "curve", "drawdown", "losingRun", "calibration"],
  ],
  withoutBars: true,
  values({ outcomes, by, event, seed }, { zone }) {
    if (!Array.isArray(outcomes)) throw new RequestFault('"outcomes" must be a list.');
    const read = outcomes.map((value, i) => readOutcome(value, i, zone));
    const asked = { event: event as "hit", seed: seed as number };
    const whole = told(recordOf(read, asked));
    if (by === "") return [whole];
    const keyOf = ({ fields }: { fields: Fields }) => fields[by as string] as string | undefined;
    const keys = [...new Set(read.flatMap((one) => keyOf(one) ?? []))].sort((a, b) => (a < b ? -1 : a > b ? 1 : 0));
    return [
      whole,
      ...keys.map((key) => ({
        key,
        ...told(
          recordOf(
            read.filter((one) => keyOf(one) === key),
            asked,
          ),
        ),
      })),
    ];
  },
};
