import type { ColumnRules } from "#core/columns/columns";

const isAbove0 = (value: unknown, most: number): value is number =>
  typeof value === "number" && value > 0 && value <= most;

/** Rules from untrusted data; nothing where they are none. */
export function readColumns(raw: unknown): ColumnRules | undefined {
  if (typeof raw !== "object" || raw === null) return undefined;
  const { box, reversal, method } = raw as Record<string, unknown>;
  if ((reversal !== 1 && reversal !== 3) || (method !== "highLow" && method !== "close")) return undefined;
  if (isAbove0(box, 1e12)) return { box, reversal, method };
  if (typeof box !== "object" || box === null) return undefined;
  const { percent, atr, multiple } = box as Record<string, unknown>;
  if (isAbove0(percent, 50)) return { box: { percent }, reversal, method };
  if (isAbove0(multiple, 1_000) && isAbove0(atr, 1_000) && Number.isInteger(atr))
    return { box: { atr, multiple }, reversal, method };
  return undefined;
}
