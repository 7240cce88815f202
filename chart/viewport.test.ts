import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { fromBars } from "#core/series/series";
import { buildPyramid } from "./pyramid.ts";
import { Viewport } from "./viewport.ts";

const bars = (n: number) =>
  buildPyramid(
    fromBars(
      Array.from({ length: n }, (_, i) => ({ time: i, open: 10, high: 12 + (i % 4), low: 8, close: 11, volume: 1 })),
    ),
  );
function aViewport(n = 1000): Viewport {
  const viewport = new Viewport(bars(n));
  viewport.resize(870, 540);
  viewport.showLatest();
  return viewport;
}

describe("what a chart shows", () => {
  it("at first the latest bars, with room for the future at the right", () => {
    const { view } = aViewport().scale;
    expect(view.to).toBeGreaterThan(999 + 0.2 * (view.to - view.from));
    expect(view.bottom).toBeLessThan(8);
  });
  it("zooming about a pixel leaves the bar under it where it is", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 800 }), fc.double({ min: 0.5, max: 2, noNaN: true }), (x, factor) => {
        const viewport = aViewport();
        const before = viewport.scale.index(x);
        viewport.zoom(factor, x);
        expect(viewport.scale.index(x)).toBeCloseTo(before, 6);
      }),
    );
  });
  it("however it is panned and zoomed, some bars stay in view", () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.boolean(), fc.double({ min: -5000, max: 5000, noNaN: true })), { maxLength: 20 }),
        (moves) => {
          const viewport = aViewport();
          for (const [pan, by] of moves)
            if (pan) viewport.pan(by);
            else viewport.zoom(Math.exp(by / 2000), 400);
          viewport.pan(0);
          const { from, to } = viewport.scale.view;
          expect(from).toBeLessThan(1000);
          expect(to).toBeGreaterThan(0);
          expect(to - from).toBeGreaterThan(10);
        },
      ),
    );
  });
  it("new bars are gone along with when the last was in view, otherwise not", () => {
    const viewport = aViewport();
    const { view } = viewport.scale;
    viewport.setBars(bars(1003));
    expect(viewport.scale.view.to).toBe(view.to + 3);
    viewport.pan(-700);
    const away = viewport.scale.view.to;
    viewport.setBars(bars(1010));
    expect(viewport.scale.view.to).toBe(away);
  });
  it("older bars in front leave the same bars in view", () => {
    const viewport = aViewport();
    const { view } = viewport.scale;
    viewport.setBars(bars(1500), 500);
    expect(viewport.scale.view.from).toBe(view.from + 500);
  });
  it("the prices of a scenario are brought into sight", () => {
    const viewport = aViewport();
    viewport.include([5, 40]);
    const { bottom, top } = viewport.scale.view;
    expect(bottom).toBeLessThan(5);
    expect(top).toBeGreaterThan(40);
  });
  it("prices set by hand stay until they are fitted again", () => {
    const viewport = aViewport();
    viewport.setPrices(0, 100, 1);
    viewport.pan(-50);
    expect(viewport.scale.view).toMatchObject({ bottom: 0, top: 100 });
    viewport.fitPrices();
    expect(viewport.scale.view.top).toBeLessThan(20);
  });
});
