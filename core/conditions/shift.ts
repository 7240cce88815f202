import type { Bind } from "#core/conditions/price";
import { closesOf, metBy, type Condition, type Judged, OF_BAR, middleOf } from "#core/conditions/condition";
import { bandText, rungText } from "#core/marks/wording";

export interface ShiftTerms {
  on: "shift";
  direction: "up" | "down";
  rung?: string;
  /** The extreme it comes from must lie in this band, its ends included. */
  inside?: readonly [number, number];
}

/** A shift of structure on a rung, as `StructureDetector` finds them. */
const OF_SHIFT: readonly Bind[] = ["gapNear", "gapMiddle", "gapFar", "swing", "brokenSwing", "midOfLeg"];

export const shift: Condition<ShiftTerms, null> = {
  on: "shift",
  read: (fields) => ({
    on: "shift",
    direction: fields.oneOf("direction", ["up", "down"]),
    ...fields.rung(),
    ...(fields.has("inside") ? { inside: fields.band("inside") } : {}),
  }),
  needs: ({ rung }) => [{ rung, of: "structure" }],
  start: () => null,
  next({ direction, rung, inside }, _state, look) {
    const judged = closesOf(look, rung).map((close): Judged => {
      const { shift: made } = close;
      const left = made && { swing: made.extreme, broken: made.price, legEnd: made.end, ...optional(made.gap) };
      const by = { ...metBy(close, rung), ...left };
      return { met: close.shift?.direction === direction && isInside(close.shift.extreme), by };
    });
    return { state: null, judged };

    function isInside(extreme: number): boolean {
      return !inside || (extreme >= inside[0] - look.tolerance && extreme <= inside[1] + look.tolerance);
    }
  },
  binds: () => [...OF_SHIFT, ...OF_BAR],
  about: ({ inside }) => inside && middleOf(inside),
  needed: () => undefined,
  turns({ inside, direction }, _at, beyond) {
    const from = inside && middleOf(inside);
    return from === undefined ? [] : [from, from + (direction === "up" ? beyond : -beyond)];
  },
  say: ({ direction, rung, inside }, market) =>
    `${rung ? rungText(rung) : "told"} structure shifts ${direction}` +
    (inside ? ` inside ${bandText({ bottom: inside[0], top: inside[1] }, market)}` : ""),
};

function optional(gap: { near: number; far: number } | undefined): { gap?: { near: number; far: number } } {
  return gap ? { gap } : {};
}
