/** What the machine looks for, in numbers an analyst may change for each set of rungs. */
export interface FindingParams {
  k: number;
  quiet: number;
  longest: number;
  departure: number;
  within: number;
  rangeBars: number;
  rangeHeight: number;
  equal: number;
  gap: number;
  touches: number;
  closes: number;
  reference: number;
  long: number;
  lookBack: number;
}

export interface FindingParam {
  name: keyof FindingParams;
  title: string;
  unit: string;
  fallback: number;
  least: number;
  most: number;
  whole?: boolean;
}

/** Every parameter with its unit, what stands when nothing was chosen, and how far it may be changed. */
export const FINDING_PARAMS: readonly FindingParam[] = [
  { name: "k", title: "Swing: bars on each side", unit: "bars", fallback: 3, least: 1, most: 20, whole: true },
  { name: "quiet", title: "Base: a bar is at most", unit: "ATR high", fallback: 0.7, least: 0.1, most: 2 },
  { name: "longest", title: "Base: at most", unit: "bars", fallback: 6, least: 1, most: 20, whole: true },
  { name: "departure", title: "Base: left by at least", unit: "ATR", fallback: 1.5, least: 0.5, most: 10 },
  { name: "within", title: "Base: left within", unit: "bars", fallback: 3, least: 1, most: 10, whole: true },
  { name: "rangeBars", title: "Range: at least", unit: "bars", fallback: 8, least: 4, most: 60, whole: true },
  { name: "rangeHeight", title: "Range: at most", unit: "ATR high", fallback: 2, least: 0.5, most: 10 },
  { name: "equal", title: "Equal highs and lows: within", unit: "ATR", fallback: 0.1, least: 0, most: 1 },
  { name: "gap", title: "Gaps: at least", unit: "ATR high", fallback: 0.3, least: 0, most: 5 },
  {
    name: "touches",
    title: "Support, resistance: at least",
    unit: "touches",
    fallback: 4,
    least: 2,
    most: 20,
    whole: true,
  },
  {
    name: "closes",
    title: "Bearing: closes in a row",
    unit: "on one side",
    fallback: 3,
    least: 1,
    most: 20,
    whole: true,
  },
  {
    name: "reference",
    title: "Bearing: of an average of",
    unit: "bars",
    fallback: 50,
    least: 2,
    most: 500,
    whole: true,
  },
  { name: "long", title: "Bearing: long average", unit: "bars", fallback: 200, least: 10, most: 1000, whole: true },
  {
    name: "lookBack",
    title: "Looked back on",
    unit: "bars of each rung",
    fallback: 2000,
    least: 200,
    most: 10_000,
    whole: true,
  },
];

export const FINDING_DEFAULTS = Object.fromEntries(
  FINDING_PARAMS.map(({ name, fallback }) => [name, fallback]),
) as unknown as FindingParams;

/** Parameters from untrusted data: what is left out stands at its default; a sentence when one cannot be taken. */
export function readFindingParams(raw: unknown): FindingParams | string {
  if (typeof raw !== "object" || raw === null || Array.isArray(raw))
    return "The parameters of what is looked for cannot be read.";
  const given = raw as Record<string, unknown>;
  const out = { ...FINDING_DEFAULTS };
  for (const { name, title, least, most, whole } of FINDING_PARAMS) {
    const value = given[name] ?? out[name];
    if (typeof value !== "number" || !(value >= least && value <= most) || (whole && !Number.isInteger(value)))
      return `"${title}" is a ${whole ? "whole " : ""}number from ${least} to ${most}.`;
    out[name] = value;
  }
  return out;
}

/**
 * Index of the first bar that is read of so many closed ones: it moves in steps of the look-back, so that a reader that
 * grew and a new one see the same bars, one to two look-backs of them.
 */
export function readFrom(closed: number, lookBack: number): number {
  return Math.max(0, Math.floor(closed / lookBack) - 1) * lookBack;
}
