import { distanceTo } from "#core/areas/areas";
import { finish } from "#core/finding/draft";
import type { Found } from "#core/finding/found";
import { levelDrafts } from "#core/finding/levels";
import type { RungReader } from "#core/finding/reader";
import { measuredDrafts } from "#core/finding/measured";
import { patternDrafts } from "#core/finding/patterns";
import { structureDrafts } from "#core/finding/structure";
import { zoneDrafts } from "#core/finding/zones";

/** What a rung offers at its last bar, nearest to its last close first. */
export function findingsOf(reader: RungReader): Found[] {
  const drafts = [structureDrafts, levelDrafts, zoneDrafts, measuredDrafts, patternDrafts].flatMap((of) => of(reader));
  const { track } = reader;
  return byNearness(
    drafts.map((draft) => finish(reader, draft)),
    track.length > 0 ? track.close[track.length - 1] : 0,
  );
}

/** Nearest to a price first. */
export function byNearness<T extends Pick<Found, "bottom" | "top" | "key">>(list: readonly T[], price: number): T[] {
  const away = (one: T) => Math.abs(distanceTo(one, price));
  return [...list].sort((a, b) => away(a) - away(b) || a.key.localeCompare(b.key));
}
