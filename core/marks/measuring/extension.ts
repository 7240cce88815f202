import { EXTENSION_RATIOS, outOfOrder } from "#core/marks/measuring/lines";
import { targetKind } from "#core/marks/measuring/targetKind";

/** Multiples of a leg beyond its end, counted from its start (common practice, no source). Its start negates it. */
export const extension = targetKind({
  kind: "extension",
  title: "Extension",
  anchors: 2,
  usual: { ratios: EXTENSION_RATIOS, force: "break" },
  laid: ([a, b]) => ({ leg: { from: a.price, to: b.price }, origin: a.price, wrong: a.price }),
  check: outOfOrder,
});
