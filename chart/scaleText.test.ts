import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { makeScale } from "./scale.ts";
import { readScaleText, scaleText } from "./scaleText.ts";

/** Written down, a zero has no sign. */
const number = (min: number, max: number) => fc.double({ min, max, noNaN: true }).map((value) => value + 0);
const scales = fc.record({
  plot: fc.record({ left: number(0, 50), top: number(0, 50), width: number(10, 2_000), height: number(10, 2_000) }),
  view: fc
    .record({ from: number(-10, 1e6), bars: number(1, 1e4), bottom: number(0.001, 1e6), share: number(0.001, 9) })
    .map(({ from, bars, bottom, share }) => ({ from, to: from + bars, bottom, top: bottom * (1 + share) })),
  log: fc.boolean(),
});

describe("the scale of a picture in one line", () => {
  it("is read again as it was, to the last digit", () => {
    fc.assert(
      fc.property(scales, ({ plot, view, log }) => {
        const scale = { plot, view: { ...view, ...(log ? { log } : {}) } };
        const read = readScaleText(scaleText(scale))!;
        expect(read).toEqual(scale);
        const third = plot.top + plot.height / 3;
        expect(makeScale(read.view, read.plot).price(third)).toBe(makeScale(scale.view, plot).price(third));
      }),
    );
  });

  it("is none where the line says something else", () => {
    const good = "0 10 790 420 -0.5 200.5 1 2 0";
    expect(readScaleText(good)).toBeDefined();
    for (const text of ["", "0 10 790", `${good} 1`, good.replace("790", "x"), good.replace("200.5", "-1")])
      expect(readScaleText(text)).toBeUndefined();
    expect(readScaleText(good.replace("1 2 0", "2 2 0"))).toBeUndefined();
  });
});
