import { judgeEach, type Condition, OF_BAR, ABOUT_NONE } from "#core/conditions/condition";

export interface BeyondBarTerms {
  on: "beyondBar";
  /** Which step, from 1. */
  of: number;
  side: "above" | "below";
}

/** A close beyond the extreme of the bar with which an earlier step was met, on that step's own rung. */
export const beyondBar: Condition<BeyondBarTerms, null> = {
  on: "beyondBar",
  read: (fields) => ({
    on: "beyondBar",
    of: fields.whole("of", 1, 40),
    side: fields.oneOf("side", ["above", "below"]),
  }),
  // The step it speaks of has its rung told.
  needs: () => [],
  start: () => null,
  next({ of, side }, _state, look) {
    const met = look.met[of - 1];
    return judgeEach(look, met?.rung, ({ bar: { close } }) => {
      if (!met) return undefined;
      return side === "above" ? close - met.high > look.tolerance : met.low - close > look.tolerance;
    });
  },
  binds: () => OF_BAR,
  ...ABOUT_NONE,
  say: ({ of, side }) => `price closes ${side} the ${side === "above" ? "high" : "low"} of the bar of step ${of}`,
};
