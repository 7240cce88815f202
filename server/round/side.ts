import { Op } from "sequelize";
import { followUpSentence } from "#core/scenarios/say";
import { DAY } from "#core/time/dates";
import { firingsOf, type FiringLine } from "../alerts/alerts.ts";
import { FollowedPlan, FollowUpRow, Market } from "../database/models.ts";
import { frozenScenarios } from "../publishing/frozen.ts";
import { eventsBetween, type StoredEvent } from "../events/events.ts";
import { readClock } from "../feed/clock.ts";

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
  const rows = (
    await FollowUpRow.findAll({
      order: [
        ["createdAt", "DESC"],
        ["sequence", "DESC"],
      ],
      limit: 60,
    })
  ).filter(({ event }) => event.time >= since);
  const plans = await FollowedPlan.findAll({
    where: { [Op.or]: rows.map(({ edition, scenarioId }) => ({ edition, scenarioId })) },
  });
  const frozen = await frozenScenarios(plans.map(({ edition }) => edition));
  const markets = new Map(
    (await Market.findAll({ where: { id: plans.map(({ marketId }) => marketId) } })).map((market) => [
      market.id,
      market,
    ]),
  );
  return rows
    .flatMap(({ edition, scenarioId, event }): FollowUpLine[] => {
      const plan = plans.find((one) => one.edition === edition && one.scenarioId === scenarioId);
      const market = plan && markets.get(plan.marketId);
      return market
        ? [
            {
              edition,
              market: market.name,
              plan: frozen.get(edition)?.get(scenarioId)?.title ?? "a scenario",
              time: event.time,
              says: followUpSentence(event, market),
            },
          ]
        : [];
    })
    .slice(0, 6);
}
