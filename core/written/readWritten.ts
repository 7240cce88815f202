import { ConditionFault, Fields } from "#core/conditions/fields";
import type { LinePrice } from "#core/conditions/price";
import { termsOfWritten } from "#core/written/read";
import type { Followed, WrittenTerms } from "#core/written/written";

/** Characters of the longest terms that are kept: some hundred conditions. */
export const LONGEST_TERMS = 40_000;

const NAMES = [
  "direction",
  "while",
  "if",
  "unless",
  "orders",
  "trail",
  "wrong",
  "expires",
  "leastReward",
  "cost",
  "through",
];

/**
 * Terms from untrusted data, as plain data of their own; everything in them can be followed. Throws a `ConditionFault`
 * with one sentence.
 */
export function readWrittenTerms(raw: unknown): WrittenTerms {
  const text = JSON.stringify(raw) ?? "";
  if (text.length > LONGEST_TERMS) throw new ConditionFault("The scenario is longer than a scenario can be.");
  const fields = Fields.of(raw, "scenario");
  NAMES.forEach((name) => fields.take(name));
  fields.done();
  for (const name of ["while", "if", "unless"]) fields.list(name, 0, 20);
  fields.list("orders", 1, 10).forEach((one, i) => Fields.of(one, `scenario.orders[${i}]`).list("if", 0, 20));
  const terms = checked(JSON.parse(text), "scenario") as WrittenTerms;
  termsOfWritten({ terms });
  return terms;
}

/** The same with every followed price known to be one. */
function checked(value: unknown, path: string): unknown {
  if (Array.isArray(value)) return value.map((one, i) => checked(one, `${path}[${i}]`));
  if (typeof value !== "object" || value === null) return value;
  if ("follows" in value) return readFollowed(value, path);
  return Object.fromEntries(Object.entries(value).map(([name, one]) => [name, checked(one, `${path}.${name}`)]));
}

function readFollowed(raw: object, path: string): Followed {
  const fields = Fields.of(raw, path);
  const text = (name: string, most: number): string => {
    const value = fields.take(name);
    if (typeof value !== "string" || value === "" || value.length > most) fields.fault(name, "must be a short text");
    return value as string;
  };
  const [follows, part, value] = [text("follows", 36), text("part", 200), fields.take("value")];
  fields.done();
  const isValue =
    Number.isFinite(value) ||
    (Array.isArray(value) && value.length === 2 && value.every(Number.isFinite)) ||
    (typeof value === "object" && value !== null && "line" in value);
  // What kind of price may stand there is judged by the condition it stands in.
  if (!isValue) fields.fault("value", "must be a price, a band or a line");
  return { follows, part, value: value as number | [number, number] | LinePrice };
}
