import type { Bind } from "#core/conditions/price";
import type { WrittenCondition } from "#core/written/written";

/** What a condition about a price leaves besides its bar. */
const ABOUT: readonly string[] = ["close", "touch", "hold", "sweep"];
const OF_BAR: readonly Bind[] = ["barLow", "barHigh"];
const OF_SHIFT: readonly Bind[] = ["gapNear", "gapMiddle", "gapFar", "swing", "brokenSwing", "midOfLeg"];

/** The prices that a condition leaves behind when it is met; see `BoundPrice`. */
export function bindsLeftBy({ on, of }: WrittenCondition): readonly Bind[] {
  switch (on) {
    case "sweep":
      return ["sweptExtreme", "level", ...OF_BAR];
    case "shift":
      return [...OF_SHIFT, ...OF_BAR];
    case "time":
    case "not":
      return [];
    case "all":
    case "any":
      return [...new Set((of as WrittenCondition[]).flatMap(bindsLeftBy))];
    default:
      return ABOUT.includes(on) ? ["level", ...OF_BAR] : OF_BAR;
  }
}
