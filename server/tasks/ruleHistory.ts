import type { Told } from "#core/scenarios/follow";
import { scenarioHistory, type HistoryAsk } from "#core/scenarios/history";
import { groupsOf, type HistoryGroups } from "#core/scenarios/groups";
import { isSeveral } from "#core/scenarios/legs";
import type { HistorySummary } from "#core/scenarios/summary";
import type { FollowUp } from "#core/scenarios/events";
import { termsOfWritten } from "#core/written/read";
import type { WrittenTerms } from "#core/written/written";
import { Calendar, type CalendarSpec } from "#core/time/calendar";
import { formatTimeframe } from "#core/time/timeframe";

type Shipped = Omit<Told, "calendar" | "also"> & { calendar: CalendarSpec };

/** A rule, and the bars it is run over, as they are sent to a process of its own. */
export interface RuleAsk extends Omit<HistoryAsk, "onProgress"> {
  terms: WrittenTerms;
  tick: number;
  zone: string;
  told: Shipped;
  also: Record<string, Shipped & { tick: number }>;
}

/** One time the rule was triggered. */
export interface FoundInstance {
  since: number;
  events: readonly FollowUp[];
  r: number;
  best: number;
  worst: number;
  ambiguous: boolean;
  state: string;
}

export interface RuleFound {
  instances: FoundInstance[];
  /** How many there are; more than are sent where there are very many. */
  count: number;
  summary: HistorySummary;
  chance: HistorySummary;
  groups: HistoryGroups;
  /** Bars by resolution that were told, and how finely the outcome could be known. */
  bars: { timeframe: string; length: number }[];
}

/** Instances that are sent: the latest. */
const SENT = 1000;

export function ruleHistory(
  { terms: written, tick, zone, told, also, ...ask }: RuleAsk,
  onProgress: (share: number) => void,
): RuleFound {
  const terms = termsOfWritten({ terms: written });
  if (isSeveral(terms)) throw new Error("A rule of several orders has no history.");
  const found = scenarioHistory(
    terms,
    { tick, zone },
    { ...unpacked(told), also: Object.fromEntries(Object.entries(also).map(([id, one]) => [id, unpacked(one)])) },
    {
      ...ask,
      onProgress(share) {
        onProgress(share);
        return true;
      },
    },
  );
  if (!found) throw new Error("It was stopped.");
  const { instances, summary, chance } = found;
  return {
    instances: instances.slice(-SENT).map(({ since, events, result: { r, best, worst, ambiguous, state } }) => ({
      since,
      events,
      r,
      best,
      worst,
      ambiguous,
      state,
    })),
    count: instances.length,
    summary,
    chance,
    groups: groupsOf(instances, told.calendar.zone),
    bars: told.layers.map(({ base, series }) => ({ timeframe: formatTimeframe(base), length: series.length })),
  };
}

function unpacked<T extends Shipped>({ calendar, ...told }: T) {
  return { ...told, calendar: new Calendar(calendar) };
}
