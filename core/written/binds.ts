import type { Bind } from "#core/conditions/price";
import { conditionOf, type Terms } from "#core/conditions/registry";
import type { WrittenCondition } from "#core/written/written";

/** The prices that a condition leaves behind when it is met; see `BoundPrice`. */
export const bindsLeftBy = (condition: WrittenCondition): readonly Bind[] => {
  const terms = condition as unknown as Terms;
  return conditionOf(terms).binds(terms);
};
