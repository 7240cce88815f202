import type { Life, MarketFacts, Mark } from "#core/marks/kind";
import { toTick } from "#core/series/tick";
import { partsOf } from "#core/written/parts";
import type { ValueOf } from "#core/written/ground";
import { isFollowed, type Written } from "#core/written/written";
import { visit } from "#core/written/visit";

/**
 * What marks say now, for the prices that follow them, on the market's ticks: orders stand nowhere else. A mark that is
 * dead says nothing any more.
 */
export function valuesOf(
  lifeOf: (id: string) => { mark: Mark; life: Life } | undefined,
  { tick, decimals }: Pick<MarketFacts, "tick" | "decimals">,
): ValueOf {
  const onTick = (price: number) => toTick(price, tick, decimals);
  return ({ follows, part }) => {
    const lived = lifeOf(follows);
    if (!lived || lived.life.dead) return undefined;
    const value = partsOf(lived.mark, lived.life).find((one) => one.part === part)?.value;
    if (typeof value === "number") return onTick(value);
    return Array.isArray(value) ? [onTick(value[0]), onTick(value[1])] : value;
  };
}

/** Ids of the marks a scenario's prices follow. */
export function marksFollowed({ terms }: Pick<Written, "terms">): string[] {
  const ids = new Set<string>();
  visit(terms, "", (value) => {
    if (isFollowed(value)) ids.add(value.follows);
  });
  return [...ids];
}
