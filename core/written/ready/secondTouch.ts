import { nearest, onTick, signOf, targetsAhead, termsWith } from "#core/written/ready/ground";
import type { ReadySentence } from "#core/written/ready";

/** Beyond a zone a stop stands by this share of ATR (definition our own). */
const BEYOND = 0.25;

/** Price touches a zone, leaves it by its height and comes back: bought, or sold, at its near edge. */
export const secondTouch: ReadySentence = {
  name: "secondTouch",
  title: "Zone: second touch",
  says: "touched, left by its height, touched again",
  fill(ground) {
    const { close, atr, subjects } = ground;
    const zone = subjects.find(({ kind }) => kind === "zone") ?? nearest(ground, ({ band }) => band !== undefined);
    if (!zone?.band) return "No zone and no area stands on the charts.";
    const { bottom, top, low = null, high = null, band } = zone;
    const direction = (bottom + top) / 2 <= close ? "long" : "short";
    const sign = signOf(direction);
    const [near, nearPrice, far, farPrice] = sign > 0 ? [top, high, bottom, low] : [bottom, low, top, high];
    const stop = onTick(far - sign * BEYOND * atr, ground);
    const touch = { when: { on: "touch", band } };
    return {
      title: `Second touch of ${zone.name}`,
      terms: termsWith(
        direction,
        {
          if: [
            touch,
            { when: { on: "leave", band, by: onTick(top - bottom, ground), side: sign > 0 ? "above" : "below" } },
            touch,
          ],
          unless: [{ on: "close", side: sign > 0 ? "below" : "above", price: farPrice, rung: ground.rung }],
          wrong: stop,
        },
        {
          entry: { order: "limit", price: nearPrice },
          stop,
          targets: targetsAhead(ground, direction, near, Math.abs(near - stop)),
        },
      ),
    };
  },
};
