import { mean } from "simple-statistics";
import type { FollowUp } from "#core/scenarios/events";
import type { ScenarioResult } from "#core/scenarios/run";
import { wilson, type Interval } from "#core/statistics/intervals";
import { DAY } from "#core/time/dates";
import { offsetAt } from "#core/time/zone";

/** Results of a rule that have something in common. */
export interface HistoryGroup {
  name: string;
  n: number;
  hits: number;
  interval: Interval;
  expectancy: number;
}

export interface HistoryGroups {
  years: HistoryGroup[];
  /** By the hour of entry on the market's clock, in parts of the day of six hours. */
  hours: HistoryGroup[];
  /** By how long the bar was on which it was entered: how finely the outcome is known. */
  resolutions: HistoryGroup[];
  /** How often the result fell above one bound and not above the next, in R; the first and the last have one. */
  results: { from?: number; to?: number; n: number }[];
}

interface Told {
  events: readonly FollowUp[];
  result: ScenarioResult;
}

const PARTS = ["00 to 06", "06 to 12", "12 to 18", "18 to 24"];
/** Bounds of the table of results, in R. */
const BOUNDS = [-Infinity, -1.5, -1, -0.5, 0, 0.5, 1, 2, 3, 5, Infinity];

/** What became of the trades of a rule that have ended, by when they were entered and on what bars. */
export function groupsOf(instances: readonly Told[], zone: string): HistoryGroups {
  const ended = instances.flatMap(({ events, result }) => {
    const entry = events.find(({ event }) => event === "entered");
    return entry && result.state === "done" ? [{ entry, r: result.r }] : [];
  });
  const by = (nameOf: (entry: FollowUp) => string, order?: readonly string[]): HistoryGroup[] => {
    const names = [...new Set(ended.map(({ entry }) => nameOf(entry)))].sort(
      (a, b) => (order ? order.indexOf(a) - order.indexOf(b) : 0) || a.localeCompare(b, "en", { numeric: true }),
    );
    return names.map((name) => {
      const results = ended.filter(({ entry }) => nameOf(entry) === name).map(({ r }) => r);
      const hits = results.filter((r) => r > 0).length;
      return { name, n: results.length, hits, interval: wilson(hits, results.length), expectancy: mean(results) };
    });
  };
  const clockOf = ({ at }: FollowUp) => (((at + offsetAt(at, zone)) % DAY) + DAY) % DAY;
  return {
    years: by(({ at }) => String(new Date(at).getUTCFullYear())),
    hours: by((entry) => PARTS[Math.floor(clockOf(entry) / (DAY / PARTS.length))], PARTS),
    resolutions: by(({ at, knownAt }) => lengthText(knownAt - at)),
    results: BOUNDS.slice(1).map((to, i) => ({
      ...(i > 0 ? { from: BOUNDS[i] } : {}),
      ...(to < Infinity ? { to } : {}),
      n: ended.filter(({ r }) => r > BOUNDS[i] && r <= to).length,
    })),
  };
}

/** "1 min", "15 min", "4 h", "1 day". */
function lengthText(length: number): string {
  const minutes = Math.round(length / 60_000);
  if (minutes < 60) return `${minutes} min`;
  const hours = minutes / 60;
  return hours < 20 ? `${Math.round(hours * 10) / 10} h` : `${Math.max(1, Math.round(hours / 24))} d`;
}
