import type { RungWorth } from "#core/measure/worth";

/** Share of figures that lie outside their 95 % interval of no difference by chance alone. */
const OUTSIDE = 0.05;

/** How many figures had cases enough to be told, how many of them differ from chance, and how many would by chance. */
export function byChance(rungs: readonly Pick<RungWorth, "kinds" | "rates" | "patterns">[]): {
  told: number;
  differ: number;
  expected: number;
} {
  const verdicts = rungs.flatMap(({ kinds, rates, patterns }) =>
    [...kinds, ...rates, ...patterns].map(({ verdict }) => verdict),
  );
  const told = verdicts.filter((verdict) => verdict !== "few").length;
  const differ = verdicts.filter((verdict) => verdict === "better" || verdict === "worse").length;
  return { told, differ, expected: Math.round(OUTSIDE * told) };
}
