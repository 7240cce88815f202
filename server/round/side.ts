import { asFollowUp } from "#core/scenarios/events";
import { followUpSentence } from "#core/scenarios/say";
import { DAY } from "#core/time/dates";
import { firingsOf, type FiringLine } from "../alerts/alerts.ts";
import { FollowUpRow, Market, WatcherRow } from "../database/models.ts";
import { subjectOf } from "../record/subject.ts";
import { frozenScenarios } from "../record/frozen.ts";
import { eventsBetween, type StoredEvent } from "../events/events.ts";
import { readClock } from "../clock.ts";

export interface FollowUpLine {
  edition: number;
  market: string;
  plan: string;
  time: number;
  says: string;
}

/** What stands beside the board: today's events, what became of published plans lately, and alerts. */
export interface Side {
  events: StoredEvent[];
  followUps: FollowUpLine[];
  firings: FiringLine[];
}

export async function sideOf(accountId: string): Promise<Side> {
  const { now } = await readClock();
  const day = Math.floor(now / DAY) * DAY;
  const [events, followUps, firings] = await Promise.all([
    eventsBetween(day, day + DAY),
    lastFollowUps(now - 3 * DAY),
    firingsOf(accountId, 8),
  ]);
  return { events, followUps, firings };
}

/** Follow-ups since an instant of the market's clock, the newest first. */
async function lastFollowUps(since: number): Promise<FollowUpLine[]> {
  const newest = {
    order: [
      ["createdAt", "DESC"],
      ["sequence", "DESC"],
    ] as [string, string][],
    limit: 60,
  };
  const rows = (await FollowUpRow.findAll(newest))
    .map(({ edition, scenarioId, event }) => ({ edition, scenarioId, event: asFollowUp(event) }))
    .filter(({ event }) => event.knownAt >= since);
  const subjects = rows.map(({ edition, scenarioId }) => subjectOf(edition, scenarioId));
  const watched = await WatcherRow.findAll({ where: { kind: "scenario", subject: subjects } });
  const frozen = await frozenScenarios(rows.map(({ edition }) => edition));
  const ids = watched.map(({ marketId }) => marketId);
  const markets = new Map((await Market.findAll({ where: { id: ids } })).map((market) => [market.id, market]));
  const lines = rows.flatMap(({ edition, scenarioId, event }): FollowUpLine[] => {
    const own = watched.find(({ subject }) => subject === subjectOf(edition, scenarioId));
    const market = own && markets.get(own.marketId);
    if (!market) return [];
    const plan = frozen.get(edition)?.get(scenarioId)?.title ?? "a scenario";
    return [{ edition, market: market.name, plan, time: event.knownAt, says: followUpSentence(event, market) }];
  });
  return lines.slice(0, 6);
}
