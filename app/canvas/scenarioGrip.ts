import type { Picture } from "../../chart/picture.ts";
import type { Scale } from "../../chart/scale.ts";
import { scenarioHandles } from "../../chart/scenario.ts";
import { toTick } from "#core/series/tick";
import type { Grip, Point } from "./gestures.ts";

/** Handles of the prices of the scenario that is written. */
export function heldPrices({ pyramid, scenarios }: Picture, scale: Scale): { field: string; x: number; y: number }[] {
  const last = pyramid.levels[0].length - 1;
  return last < 0 ? [] : scenarios.filter(({ held }) => held).flatMap((one) => scenarioHandles(one, scale, last));
}

/** The price at a point, to be dragged: it goes where the pointer is, on the market's grid. */
export function priceGripAt(
  picture: Picture,
  scaleNow: () => Scale,
  { x, y }: Point,
  reach: number,
  onPrice: (field: string, price: number) => void,
): Grip | undefined {
  const held = heldPrices(picture, scaleNow()).find((one) => Math.hypot(one.x - x, one.y - y) <= reach);
  const { tick, decimals } = picture.market;
  return (
    held && {
      drag: (to) => onPrice(held.field, toTick(scaleNow().price(to.y), tick, decimals)),
      drop: () => undefined,
    }
  );
}
