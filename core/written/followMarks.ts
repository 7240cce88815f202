import type { Life, Mark } from "#core/marks/kind";
import { partsOf } from "#core/written/parts";
import type { ValueOf } from "#core/written/ground";
import { isFollowed, type Written } from "#core/written/written";
import { visit } from "#core/written/visit";

/** What marks say now, for the prices that follow them. A mark that is dead says nothing any more. */
export function valuesOf(lifeOf: (id: string) => { mark: Mark; life: Life } | undefined): ValueOf {
  return ({ follows, part }) => {
    const lived = lifeOf(follows);
    if (!lived || lived.life.dead) return undefined;
    return partsOf(lived.mark, lived.life).find((one) => one.part === part)?.value;
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
