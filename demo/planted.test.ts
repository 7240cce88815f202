import { describe, expect, it } from "vitest";
import { judgeDemo, judgePlanted, plantFacts } from "./planted.ts";

describe("planted facts", () => {
  it("are the same for the same seed, and other ones for another", () => {
    expect(plantFacts("a")).toEqual(plantFacts("a"));
    expect(plantFacts("a").zones).not.toEqual(plantFacts("b").zones);
  });
  it("are found, and little is found that was not planted", () => {
    const seeds = Array.from({ length: 8 }, (_, i) => `other ${i}`);
    for (const { name, planted, found, hit, right } of judgePlanted(seeds)) {
      expect(planted, name).toBeGreaterThan(80);
      expect(hit / planted, `recall of ${name}`).toBeGreaterThan(0.85);
      expect(right / found, `precision of ${name}`).toBeGreaterThan(0.9);
    }
  });
  it("the larger turns of the demo world are followed by a shift before the next one", () => {
    const { planted, hit } = judgeDemo();
    expect(planted).toBeGreaterThan(100);
    expect(hit / planted).toBeGreaterThan(0.8);
  }, 60_000);
});
