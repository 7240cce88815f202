import { describe, expect, it } from "vitest";
import { legOf, retracement } from "#core/projections/retracement";

const at = (day: number, price: number) => ({ time: day, price });

describe("retracement", () => {
  // Common practice, no source: in an up-leg levels count down from its high, in a down-leg up from its low.
  it("counts down from the high of an up-leg", () => {
    expect(retracement(at(0, 100), at(5, 200), [0, 0.382, 0.5, 0.618, 1])).toEqual(
      [200, 161.8, 150, 138.2, 100].map((price, i) => ({
        ratio: [0, 0.382, 0.5, 0.618, 1][i],
        price: expect.closeTo(price, 10),
      })),
    );
  });
  it("counts up from the low of a down-leg", () => {
    expect(retracement(at(0, 200), at(5, 100), [0.382])[0].price).toBeCloseTo(138.2, 10);
  });
  it("derives the direction from the order in time, whichever end was clicked first", () => {
    expect(legOf(at(5, 200), at(0, 100))).toEqual({ from: at(0, 100), to: at(5, 200), direction: "up" });
    expect(legOf(at(0, 200), at(5, 100)).direction).toBe("down");
  });
  it("shares within a leg follow the golden section: 0.618 of it is 0.382 from the other end", () => {
    // Euclid, Elements VI, definition 3: the whole is to the greater part as the greater to the less.
    const golden = (Math.sqrt(5) - 1) / 2;
    const [{ price: far }] = retracement(at(0, 0.001), at(1, 1.001), [golden]);
    const [{ price: near }] = retracement(at(0, 1.001), at(1, 0.001), [1 - golden]);
    expect(far).toBeCloseTo(near, 12);
  });
});
