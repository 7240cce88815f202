import type { Life, Mark, PriceBand } from "#core/marks/kind";
import { kindOf } from "#core/marks/registry";

type Lived = readonly { mark: Mark; life: Life }[];

const known = new WeakMap<Lived, readonly PriceBand[]>();

/** The bands of live marks from low to high; a list of marks is asked once, not at every frame. */
export function bandsOf(marks: Lived): readonly PriceBand[] {
  const before = known.get(marks);
  if (before) return before;
  const bands = marks
    .filter(({ life }) => !life.dead)
    .flatMap(({ mark, life }) => {
      const all = kindOf(mark).prices(mark, life);
      // A count may die at several prices: the first is that of what it says as a whole.
      const kill = all.find(({ role }) => role === "kill");
      return all.filter((band) => band.role !== "kill" || band === kill);
    })
    .sort((a, b) => a.bottom - b.bottom);
  known.set(marks, bands);
  return bands;
}
