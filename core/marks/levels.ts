import { kindOf } from "#core/marks/registry";
import type { Life, Mark, MarketFacts, PriceBand } from "#core/marks/kind";
import { priceText } from "#core/marks/wording";

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
  /** It would not stand in the table but for a call that uses it. */
  used?: true;
  /** It is a price of a count. */
  counted?: true;
}

/** The same with the mark it is of, and the leg it is a share of. */
export interface LevelOfMark extends LevelLine, Pick<PriceBand, "leg"> {
  mark: string;
  kind: string;
}

/** What a level is, so that two shares of two legs are told apart: "61.8 % of 420.10 to 440.83". */
export function levelName({ label, leg }: Pick<LevelOfMark, "label" | "leg">, market: Pick<MarketFacts, "decimals">) {
  return leg ? `${label} of ${priceText(leg[0], market)} to ${priceText(leg[1], market)}` : label;
}

type Lived = readonly { mark: Mark; life: Life }[];

/** Every price of the live marks, highest first. */
export function levelsOf(marks: Lived, close: number): LevelOfMark[] {
  return marks
    .filter(({ life }) => !life.dead)
    .flatMap(({ mark, life }) =>
      kindOf(mark)
        .prices(mark, life)
        .map(({ bottom, top, role, label, leg }) => {
          const near = close > top ? top : close < bottom ? bottom : close;
          return {
            bottom,
            top,
            role,
            label,
            ...(leg ? { leg } : {}),
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
const MOST = 12;
/** The nearest on each side of price. */
const BESIDE = 3;

/**
 * The prices that matter to readers, highest first: those that scenarios use, those that end counts, and the nearest on
 * each side of the last close; of too many the nearest.
 */
export function levelLines(marks: Lived, close: number, used: readonly number[] = []): LevelLine[] {
  const all = levelsOf(marks, close);
  const isUsed = ({ bottom, top }: LevelLine) => used.some((price) => price >= bottom && price <= top);
  const beside = (isThere: (distance: number) => boolean) =>
    byDistance(all.filter(({ distance, role }) => role !== "kill" && isThere(distance))).slice(0, BESIDE);
  const own = new Set([
    ...all.filter(({ role }) => role === "kill"),
    ...beside((distance) => distance >= 0),
    ...beside((distance) => distance <= 0),
  ]);
  return byDistance([...new Set([...own, ...all.filter(isUsed)])])
    .slice(0, MOST)
    .map((line) => ({ ...lineOf(line), ...(own.has(line) ? {} : { used: true as const }) }))
    .sort((a, b) => b.top - a.top);
}

function lineOf({ bottom, top, role, label, rung, status, distance, kind }: LevelOfMark): LevelLine {
  const counted = kind === "count" ? { counted: true as const } : {};
  return { bottom, top, role, label, rung, status, distance, ...counted };
}

function byDistance<T extends LevelLine>(lines: readonly T[]): T[] {
  return [...lines].sort((a, b) => Math.abs(a.distance) - Math.abs(b.distance));
}
