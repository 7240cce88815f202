import { targetKind } from "#core/marks/measuring/targetKind";

/**
 * The height of a range, a swing, a pole or a pattern laid off from the edge it is left at, which is the second anchor.
 * It counts only after a close beyond that edge; the other edge negates it. (R. D. Edwards and J. Magee, Technical
 * Analysis of Stock Trends, 1948, from memory: the height of a rectangle from its break.)
 */
export const measuredMove = targetKind({
  kind: "measuredMove",
  title: "Measured move",
  anchors: 2,
  asPlaced: true,
  usual: { ratios: [1], force: "break" },
  laid: ([a, b]) => ({ leg: { from: a.price, to: b.price }, origin: b.price, wrong: a.price }),
  // Both edges of a range may stand on one bar.
  check: () => [],
});
