import type { LinePrice } from "#core/conditions/price";
import type { Life, Mark, PriceBand } from "#core/marks/kind";
import { kindOf } from "#core/marks/registry";
import type { Followed } from "#core/written/written";

/** What a mark says that a scenario can follow: a price, a band or a sloping line. */
export interface MarkPart {
  part: string;
  name: string;
  role: PriceBand["role"];
  value: Followed["value"];
}

const EDGES = { bottom: "low edge", top: "high edge", middle: "middle" } as const;

/**
 * The prices of a live mark, by names that stay the same while it moves: "at level", "bottom demand", "band demand",
 * "line trend line". Of two prices of one name the second is "at level (2)".
 */
export function partsOf(mark: Mark, life: Life): MarkPart[] {
  const line = lineOf(mark);
  const names = new Map<string, number>();
  const bands = kindOf(mark)
    .prices(mark, life)
    .flatMap(({ bottom, top, label, role }): MarkPart[] => {
      const nth = (names.get(label) ?? 0) + 1;
      names.set(label, nth);
      const key = nth === 1 ? label : `${label} (${nth})`;
      if (bottom === top) return [{ part: `at ${key}`, name: key, role, value: bottom }];
      const edge = (name: keyof typeof EDGES, value: number): MarkPart => ({
        part: `${name} ${key}`,
        name: `${key}, ${EDGES[name]}`,
        role,
        value,
      });
      return [
        edge("top", top),
        edge("bottom", bottom),
        edge("middle", (bottom + top) / 2),
        { part: `band ${key}`, name: key, role, value: [bottom, top] },
      ];
    });
  return line ? [{ part: "line", name: "along the line", role: "level", value: line }, ...bands] : bands;
}

/** A mark that is a sloping line, as a price that goes on along it. */
function lineOf({ kind, anchors, rung }: Mark): LinePrice | undefined {
  const [a, b] = anchors;
  if (kind !== "trendLine" || !b) return undefined;
  return { line: [{ ...a }, { ...b }], rung };
}
