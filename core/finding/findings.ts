import { finish } from "#core/finding/draft";
import type { Found } from "#core/finding/found";
import { levelDrafts } from "#core/finding/levels";
import type { RungReader } from "#core/finding/reader";
import { measuredDrafts } from "#core/finding/measured";
import { structureDrafts } from "#core/finding/structure";
import { zoneDrafts } from "#core/finding/zones";

/** What a rung offers at its last bar, best first. */
export function findingsOf(reader: RungReader): Found[] {
  const drafts = [...structureDrafts(reader), ...levelDrafts(reader), ...zoneDrafts(reader), ...measuredDrafts(reader)];
  return byGrade(drafts.map((draft) => finish(reader, draft)));
}

export function byGrade<T extends Pick<Found, "grade" | "key">>(list: readonly T[]): T[] {
  return [...list].sort((a, b) => b.grade - a.grade || a.key.localeCompare(b.key));
}
