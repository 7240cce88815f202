import { expect, it } from "vitest";
import { erfc } from "#core/statistics/erfc";

// Abramowitz and Stegun (1964), tables 7.1 and 7.3, to the digits of a double: from memory of the function's values.
it.each([
  [0, 1],
  [0.5, 0.4795001221869535],
  [1, 0.15729920705028513],
  [2, 0.004677734981047266],
  [3, 2.209049699858544e-5],
  [5, 1.5374597944280349e-12],
  [-1, 1.8427007929497148],
])("erfc(%d)", (x, value) => expect(Math.abs(erfc(x) / value - 1)).toBeLessThan(1e-12));

it("both ways meet where one takes over from the other", () =>
  expect(Math.abs(erfc(2.5 - 1e-12) / erfc(2.5) - 1)).toBeLessThan(1e-10));
