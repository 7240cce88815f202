import type { MarketFacts } from "#core/marks/kind";
import type { LevelLine } from "#core/marks/levels";
import { bandText, rungText } from "#core/marks/wording";

/** What two editions said of a market. */
export interface SaidOfMarket {
  levels: readonly LevelLine[];
  scenarios: readonly { id: string; title: string; weight?: number; calledIn?: number }[];
}

/** What is new of a market since it was last written of, in sentences: of its levels, and of what is called. */
export interface Changes {
  /** The edition it was last in. */
  since: number;
  levels: string[];
  calls: string[];
}

/**
 * What changed of a market between two editions. A level is the same by its name and rung; of several of one name each
 * goes with the nearest. Levels that merely came into or went out of the nearest are no news: only those that moved,
 * died, or were placed are told, which is why `live` names everything that still stands.
 */
export function changesOf(
  before: SaidOfMarket & { edition: number },
  now: SaidOfMarket,
  live: readonly LevelLine[],
  market: Pick<MarketFacts, "decimals" | "tick">,
): Changes {
  return {
    since: before.edition,
    levels: levelChanges(before.levels, now.levels, live, market),
    calls: callChanges(before.scenarios, now.scenarios),
  };
}

const nameOf = ({ label, rung }: LevelLine) => `${label}, ${rungText(rung).toLowerCase()}`;
const middleOf = ({ bottom, top }: LevelLine) => (bottom + top) / 2;

function levelChanges(
  before: readonly LevelLine[],
  now: readonly LevelLine[],
  live: readonly LevelLine[],
  market: Pick<MarketFacts, "decimals" | "tick">,
): string[] {
  const said: string[] = [];
  const left = [...live];
  for (const old of before) {
    const same = left.filter((one) => nameOf(one) === nameOf(old));
    const [nearest] = same.sort(
      (a, b) => Math.abs(middleOf(a) - middleOf(old)) - Math.abs(middleOf(b) - middleOf(old)),
    );
    if (!nearest) {
      said.push(`Gone: ${nameOf(old)}, ${bandText(old, market)}.`);
      continue;
    }
    left.splice(left.indexOf(nearest), 1);
    const moved =
      Math.abs(nearest.bottom - old.bottom) > market.tick / 2 || Math.abs(nearest.top - old.top) > market.tick / 2;
    if (moved) said.push(`Moved: ${nameOf(old)}, ${bandText(old, market)} to ${bandText(nearest, market)}.`);
    else if (nearest.status !== old.status)
      said.push(`${capital(nameOf(old))}, ${bandText(old, market)}: ${old.status}, now ${nearest.status}.`);
  }
  const known = new Set(before.map(nameOf));
  for (const line of now) if (!known.has(nameOf(line))) said.push(`New: ${nameOf(line)}, ${bandText(line, market)}.`);
  return said;
}

function callChanges(before: SaidOfMarket["scenarios"], now: SaidOfMarket["scenarios"]): string[] {
  const gone = before.filter(({ id }) => !now.some((one) => one.id === id));
  return [
    ...gone.map(({ title }) => `No longer called: ${title}.`),
    ...now.flatMap(({ id, title, weight }) => {
      const old = before.find((one) => one.id === id);
      if (!old) return [`New call: ${title}.`];
      return old.weight !== weight && weight !== undefined && old.weight !== undefined
        ? [`${title}: ${old.weight} % became ${weight} %.`]
        : [];
    }),
  ];
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
