import type { AreaBand } from "#core/areas/areas";
import { placesOf, type Found } from "#core/finding/found";

/** The bands of findings; what a grade says is how fresh and good it is. */
export function bandsOfFindings(found: readonly Found[], atrOf: (rung: string) => number): AreaBand[] {
  return placesOf(found).map(({ key, kind, bottom, top, rung, grade, name, sources }) => ({
    bottom,
    top,
    rung,
    atr: atrOf(rung),
    kind,
    freshness: grade / 100,
    name,
    id: key,
    sources,
  }));
}
