import { outOfOrder, PROJECTION_RATIOS } from "#core/marks/measuring/lines";
import { targetKind } from "#core/marks/measuring/targetKind";

/**
 * The leg A to B laid off from C, where what came against it ended (common practice, no source). C taken out negates
 * it.
 */
export const projection = targetKind({
  kind: "projection",
  title: "Projection",
  anchors: 3,
  usual: { ratios: PROJECTION_RATIOS, force: "break" },
  laid: ([a, b, c]) => ({ leg: { from: a.price, to: b.price }, origin: c.price, wrong: c.price }),
  check(anchors) {
    const [a, b, c] = anchors;
    const sign = Math.sign(b.price - a.price);
    const isBeyond = sign * (c.price - b.price) >= 0;
    return [
      ...outOfOrder(anchors),
      ...(isBeyond ? [{ sentence: "The third anchor lies on the way back from the second.", anchor: 2 }] : []),
    ];
  },
});
