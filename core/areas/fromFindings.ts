import type { AreaBand } from "#core/areas/areas";
import { placesOf, type Found } from "#core/finding/found";

/** The bands of findings that say where price stands or has stood. */
export function bandsOfFindings(found: readonly Found[], atrOf: (rung: string) => number): AreaBand[] {
  return placesOf(found).map(({ key, kind, bottom, top, rung, freshness, name, sources }) => ({
    bottom,
    top,
    rung,
    atr: atrOf(rung),
    kind,
    freshness,
    name,
    id: key,
    sources,
  }));
}
