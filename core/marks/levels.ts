import { kindOf } from "#core/marks/registry";
import type { Life, Mark, PriceBand } from "#core/marks/kind";

/** One line of the table of levels that stands beside every picture. */
export interface LevelLine {
  bottom: number;
  top: number;
  role: PriceBand["role"];
  label: string;
  rung: string;
  status: string;
  /** From the last close to the nearer edge, as a share of the close. */
  distance: number;
}

/** The same with the mark it is of. */
export interface LevelOfMark extends LevelLine {
  mark: string;
  kind: string;
}

type Lived = readonly { mark: Mark; life: Life }[];

/** Every price of the live marks, highest first. */
export function levelsOf(marks: Lived, close: number): LevelOfMark[] {
  return marks
    .filter(({ life }) => !life.dead)
    .flatMap(({ mark, life }) =>
      kindOf(mark)
        .prices(mark, life)
        .map(({ bottom, top, role, label }) => {
          const near = close > top ? top : close < bottom ? bottom : close;
          return {
            bottom,
            top,
            role,
            label,
            rung: mark.rung,
            status: life.status,
            distance: (near - close) / close,
            mark: mark.id,
            kind: mark.kind,
          };
        }),
    )
    .sort((a, b) => b.top - a.top);
}

/** Lines of a table of levels for readers: more would be a list of everything that was ever said. */
const NEAREST = 12;

/** The prices of live marks that are nearest to the last close, highest first. */
export function levelLines(marks: Lived, close: number): LevelLine[] {
  return levelsOf(marks, close)
    .sort((a, b) => Math.abs(a.distance) - Math.abs(b.distance))
    .slice(0, NEAREST)
    .map(({ bottom, top, role, label, rung, status, distance }) => ({
      bottom,
      top,
      role,
      label,
      rung,
      status,
      distance,
    }))
    .sort((a, b) => b.top - a.top);
}
