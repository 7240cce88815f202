import type { Life, Mark, PriceBand } from "#core/marks/kind";
import { kindOf } from "#core/marks/registry";

type Lived = readonly { mark: Mark; life: Life }[];

/** Targets ahead that are brought into sight with a chosen mark: the nearest. */
const AHEAD = 2;

/** The nearest target prices of the chosen marks that live. */
export function chosenPrices(marks: Lived, selected: readonly string[], close: number): number[] {
  return marks
    .filter(({ mark, life }) => selected.includes(mark.id) && !life.dead)
    .flatMap(({ mark, life }) => {
      const targets = kindOf(mark)
        .prices(mark, life)
        .filter(({ role }) => role === "target")
        .map(({ bottom }) => bottom);
      return targets.sort((a, b) => Math.abs(a - close) - Math.abs(b - close)).slice(0, AHEAD);
    });
}

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
