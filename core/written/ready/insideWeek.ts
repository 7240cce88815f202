import type { Filled, ReadySentence } from "#core/written/ready";
import { onTick, signOf, termsWith, type Band, type ReadyGround } from "#core/written/ready/ground";

/** The last week lies within the one before: with the first close beyond it, the other way wrong. A pair. */
export const insideWeek: ReadySentence = {
  name: "insideWeek",
  title: "Inside week",
  says: "a week within the one before: with the close that leaves it, either way",
  fill(ground) {
    if (!ground.weeks) return "Two closed weeks are needed.";
    const [before, last] = ground.weeks;
    if (!(last.top <= before.top && last.bottom >= before.bottom))
      return "The last closed week does not lie within the one before.";
    return { title: "Out of the inside week, up", terms: out(ground, last, "long"), other: out(ground, last, "short") };
  },
};

function out(ground: ReadyGround, { bottom, top }: Band, direction: "long" | "short"): Filled["terms"] {
  const sign = signOf(direction);
  const [edge, far] = sign > 0 ? [top, bottom] : [bottom, top];
  const height = top - bottom;
  const at = (share: number) => onTick(edge + sign * share * height, ground);
  return termsWith(
    direction,
    {
      if: [{ when: { on: "close", side: sign > 0 ? "above" : "below", price: edge, rung: "P1D" } }],
      // The first to come ends the other.
      unless: [{ on: "close", side: sign > 0 ? "below" : "above", price: far, rung: "P1D" }],
      wrong: far,
    },
    {
      entry: { order: "limit", price: edge },
      stop: onTick((bottom + top) / 2, ground),
      targets: [
        { price: at(0.5), share: 0.5 },
        { price: at(1), share: 0.5 },
      ],
    },
  );
}
