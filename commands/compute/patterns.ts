import { PatternDetector, type PatternFound } from "#core/patterns/detector";
import { isPatternName, patternTitle, PATTERN_NAMES, PATTERNS, type PatternName } from "#core/patterns/registry";
import { run, Track } from "#core/series/track";
import { RequestFault } from "./fault.ts";
import type { Parameter } from "./parameters.ts";
import { timeText, type Params, type Quantity } from "./quantity.ts";

const NAMES: Parameter = {
  ...{ name: "patterns", type: `list of ${PATTERN_NAMES.join(", ")}`, fallback: PATTERN_NAMES },
  read(value) {
    if (!Array.isArray(value) || value.length === 0 || !value.every(isPatternName))
      throw new RequestFault(`"patterns" must be a list of ${PATTERN_NAMES.join(", ")}.`);
    return value;
  },
};

function rowOf(
  { name, sign, turns, rules, form, uneven, knownAt, life }: PatternFound,
  timeAt: (i: number) => string,
): Params {
  const { state, way, confirmedAt, retestedAt, endedAt, broke, entry, target, stop, isLate } = life;
  const at = (field: string, i: number | undefined) => (i === undefined ? {} : { [field]: timeAt(i) });
  const ended = { met: "metAt", failed: "failedAt", negated: "negatedAt" } as const;
  return {
    time: timeAt(knownAt),
    pattern: name,
    title: patternTitle(name, sign),
    ...(form.isEither ? {} : { direction: sign > 0 ? "up" : "down" }),
    points: turns.map(({ index, price }, n) => ({ time: timeAt(index), price, label: PATTERNS[name].points[n] })),
    rules: rules.map(({ rule, value, least, most, holds }) => ({
      ...{ rule, value, holds },
      ...(Number.isFinite(least) ? { least } : {}),
      ...(Number.isFinite(most) ? { most } : {}),
    })),
    ...(uneven === undefined ? {} : { uneven }),
    state,
    ...(isLate ? { late: true } : {}),
    ...(way === undefined ? {} : { left: way > 0 ? "up" : "down", line: broke, entry, stop, target }),
    ...at("confirmedAt", confirmedAt),
    ...at("retestedAt", retestedAt),
    ...(endedAt === undefined || !(state in ended) ? {} : at(ended[state as keyof typeof ended], endedAt)),
  };
}

/** Patterns with their rules and what became of them. */
export const patterns: readonly Quantity[] = [
  {
    name: "patterns",
    says: "patterns by confirmed turns: their rules with numbers, and their life bar by bar",
    parameters: [NAMES],
    fields: [
      ...["time", "pattern", "title", "direction", "points", "rules", "uneven", "state", "late", "left"],
      ...["line", "entry", "stop", "target", "confirmedAt", "retestedAt", "metAt", "failedAt", "negatedAt"],
    ],
    values({ patterns: names }, { series, timeframe, tick }) {
      if (series.length === 0) return [];
      const track = new Track(series, tick());
      const detector = new PatternDetector(track, names as readonly PatternName[]);
      run(track, [detector]);
      return detector.found.map((found) => rowOf(found, (i) => timeText(series.time[i], timeframe)));
    },
  },
];
