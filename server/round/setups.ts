import { randomUUID } from "node:crypto";
import type { SetupDto } from "#contracts/setup";
import { endOfSetup, rewardToRisk, termsOfSetup, type Setup, type SetupEnd } from "#core/round/setup";
import { resultOf } from "#core/scenarios/run";
import { lockMarket } from "../bars/markets.ts";
import { readClock } from "../clock.ts";
import { transact } from "../database/connection.ts";
import { Market, SetupRow, WatcherRow } from "../database/models.ts";
import { Failure, notFound } from "../failure.ts";
import { factsOfWatch } from "../watch/scenarios.ts";
import { setupWatcher, type SetupState } from "../watch/setups.ts";
import { beginToWatch, endWatch } from "../watch/tell.ts";

/** What would have become of it: where it ended, when that was known, and in R what it made or stands at. */
export interface SetupOutcome {
  end: SetupEnd;
  at?: number;
  r: number;
  ambiguous: boolean;
}

export interface NotedSetup extends Setup {
  id: string;
  market: string;
  name: string;
  decimals: number;
  rung: string;
  notedAt: number;
  outcome: SetupOutcome;
}

/** Notes a setup that was passed or missed, with its reason; it is followed like one that was taken. */
export function noteSetup({ market: marketId, rung, ...setup }: SetupDto, accountId: string): Promise<string> {
  return transact(async (transaction) => {
    const market = await lockMarket(marketId, transaction);
    if (rewardToRisk(setup) === undefined)
      throw new Failure("setup", "Stop and target stand on the wrong sides of the entry.", {
        kept: "Nothing was noted.",
        fields: { stop: "The stop lies against the direction, the target with it." },
      });
    const id = randomUUID();
    const { now } = await readClock();
    const noted = { ...setup, reason: setup.reason.trim() };
    await SetupRow.create({ id, accountId, marketId, rung, setup: noted, notedAt: now }, { transaction });
    const { start } = setupWatcher(noted, market, now);
    await beginToWatch(market, [{ kind: "setup", subject: id, start }], now, transaction);
    return id;
  });
}

export function removeSetup(id: string, accountId: string): Promise<void> {
  return transact(async (transaction) => {
    if ((await SetupRow.destroy({ where: { id, accountId }, transaction })) === 0) throw notFound("setup");
    await endWatch("setup", id, transaction);
  });
}

/** Setups that were not taken, the newest first, with what has become of them since. */
export async function setupsOf(accountId: string, limit = 50): Promise<NotedSetup[]> {
  const rows = await SetupRow.findAll({ where: { accountId }, order: [["notedAt", "DESC"]], limit });
  const ids = [...new Set(rows.map(({ marketId }) => marketId))];
  const markets = new Map((await Market.findAll({ where: { id: ids } })).map((market) => [market.id, market]));
  const watched = await WatcherRow.findAll({ where: { kind: "setup", subject: rows.map(({ id }) => id) } });
  const states = new Map(watched.map(({ subject, state }) => [subject, state as SetupState]));
  return rows.flatMap(({ id, marketId, rung, setup, notedAt }): NotedSetup[] => {
    const market = markets.get(marketId);
    if (!market) return [];
    const state = states.get(id) ?? setupWatcher(setup, market, notedAt).start;
    const { r } = resultOf(termsOfSetup(setup), factsOfWatch(market, notedAt), state.run);
    const outcome = { ...endOfSetup(state.events), r };
    return [{ ...setup, id, market: marketId, name: market.name, decimals: market.decimals, rung, notedAt, outcome }];
  });
}
