import { describe, expect, it } from "vitest";
import { readColumns } from "#core/columns/readRules";
import { scaledColumns, USUAL_COLUMNS } from "./columnRules.ts";

describe("how columns are made, as it is kept in a browser", () => {
  it.each([
    [USUAL_COLUMNS],
    [{ box: 5, reversal: 1, method: "close" }],
    [{ box: { atr: 14, multiple: 0.5 }, reversal: 3, method: "highLow" }],
  ])("%j is read", (rules) => expect(readColumns(rules)).toEqual(rules));
  it.each([
    [null],
    ["columns"],
    [{}],
    [{ box: 0, reversal: 3, method: "close" }],
    [{ box: -1, reversal: 3, method: "close" }],
    [{ box: NaN, reversal: 3, method: "close" }],
    [{ box: { percent: 51 }, reversal: 3, method: "close" }],
    [{ box: { atr: 1.5, multiple: 1 }, reversal: 3, method: "close" }],
    [{ box: { atr: 14 }, reversal: 3, method: "close" }],
    [{ box: 1, reversal: 2, method: "close" }],
    [{ box: 1, reversal: 3, method: "open" }],
  ])("%j is none", (raw) => expect(readColumns(raw)).toBeUndefined());
  it("boxes so many times as large keep everything else", () => {
    expect(scaledColumns({ ...USUAL_COLUMNS, box: 4 }, 2)).toEqual({ ...USUAL_COLUMNS, box: 8 });
    expect(scaledColumns(USUAL_COLUMNS, 0.5)).toEqual({ ...USUAL_COLUMNS, box: { percent: 0.5 } });
    expect(scaledColumns({ ...USUAL_COLUMNS, box: { percent: 40 } }, 2).box).toEqual({ percent: 50 });
    expect(scaledColumns({ ...USUAL_COLUMNS, box: { atr: 14, multiple: 0.5 } }, 2).box).toEqual({
      atr: 14,
      multiple: 1,
    });
  });
});
