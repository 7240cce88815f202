import { describe, expect, it } from "vitest";
import { byChance } from "./byChance.ts";

const of = (...verdicts: string[]) => verdicts.map((verdict) => ({ verdict })) as never;

describe("figures that differ from chance", () => {
  it("are held against how many would by chance; few cases are no figure", () => {
    const many = of(...Array.from({ length: 58 }, () => "same"), "better", "worse", "few");
    expect(byChance([{ kinds: many, rates: of("same", "few"), patterns: of("worse") }])).toEqual({
      ...{ told: 62, differ: 3, expected: 3 },
    });
    expect(byChance([])).toEqual({ told: 0, differ: 0, expected: 0 });
  });
});
