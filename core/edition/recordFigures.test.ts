import { describe, expect, it } from "vitest";
import { recordFigures, sayRecord } from "#core/edition/recordFigures";

const over = (result?: number) => ({ isOver: true, ...(result === undefined ? {} : { result }) });
const all = (...results: number[]) => results.map((result) => over(result));

describe("the record so far", () => {
  it("counts calls, and of trades those that are over", () => {
    const figures = recordFigures([over(2), over(-1), over(0.5), over(), { isOver: false, result: 3 }]);
    expect(figures).toMatchObject({ published: 5, open: 1, notEntered: 1, n: 3, hits: 2, mean: 0.5 });
    expect(sayRecord(figures)[0]).toBe("5 calls were published: 1 not over, 1 over without an entry, 3 trades over.");
  });

  it("says how sure its share is", () => {
    // R. G. Newcombe, Two-sided confidence intervals for the single proportion (1998), table I: 81 of 263 by Wilson's
    // score without correction is 0.2553 to 0.3662.
    const results = [...Array.from({ length: 81 }, () => 1), ...Array.from({ length: 182 }, () => -1)];
    const figures = recordFigures(all(...results));
    expect(figures.share[0]).toBeCloseTo(0.2553, 4);
    expect(figures.share[1]).toBeCloseTo(0.3662, 4);
    expect(sayRecord(figures)[1]).toContain("81 of 263 made more than nothing: 31 % (95 %: 26 to 37 %)");
  });

  it("says nothing of chance that was not worked out: driftless rules do not make 0 R with every stop", () => {
    expect(sayRecord(recordFigures(all(1, -1, 1, -1))).join(" ")).not.toMatch(/chance/i);
    expect(sayRecord(recordFigures([]))).toEqual(["No call was published yet."]);
    expect(sayRecord(recordFigures([over()]))).toHaveLength(1);
  });
});
