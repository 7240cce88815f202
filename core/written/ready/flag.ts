import type { ReadySentence } from "#core/written/ready";
import { onTick, signOf, termsWith } from "#core/written/ready/ground";

/** Of the pole's height a flag gives back less than this (common practice, no source: half). */
const GIVES_BACK = 0.6;
/** Beyond its far edge the stop stands by this share of ATR (definition our own). */
const BEYOND = 0.25;

/** After a strong leg a shallow one against it: out of the flag with the leg, as far again as the pole was high. */
export const flag: ReadySentence = {
  name: "flag",
  title: "Flag",
  says: "a strong leg, a shallow one against it, and on",
  fill(ground) {
    const { close, rung, legs } = ground;
    const [pole, flagLeg] = legs.slice(-2);
    if (!flagLeg || pole.direction === flagLeg.direction) return "This rung has no two legs yet, there and back.";
    const height = pole.top - pole.bottom;
    if (flagLeg.top - flagLeg.bottom > GIVES_BACK * height)
      return "The last leg gave back too much of the one before to be a flag.";
    const direction = pole.direction === "up" ? "long" : "short";
    const sign = signOf(direction);
    const [edge, far] = sign > 0 ? [flagLeg.top, flagLeg.bottom] : [flagLeg.bottom, flagLeg.top];
    if (sign * (close - edge) > 0) return "Price has left the flag already.";
    const beyond = onTick(far - sign * BEYOND * ground.atr, ground);
    const entry = onTick(edge + sign * ground.tick, ground);
    return {
      title: `Out of the flag, ${direction}`,
      terms: termsWith(
        direction,
        {
          while: [{ on: "close", side: sign > 0 ? "above" : "below", price: far, rung }],
          if: [{ when: { on: "close", side: sign > 0 ? "above" : "below", price: edge, rung } }],
          wrong: beyond,
        },
        {
          entry: { order: "limit", price: entry },
          stop: beyond,
          targets: [
            { price: onTick(edge + (sign * height) / 2, ground), share: 0.5 },
            { price: onTick(edge + sign * height, ground), share: 0.5 },
          ],
        },
      ),
    };
  },
};
