import { randomUUID } from "node:crypto";
import type { SetupDto } from "#contracts/setup";
import { outcomeOf, rewardToRisk, type Setup, type SetupOutcome } from "#core/round/setup";
import { finestOf } from "../bars/finest.ts";
import { findMarket } from "../bars/markets.ts";
import { Market, SetupRow } from "../database/models.ts";
import { Failure, notFound } from "../failure.ts";
import { readClock } from "../feed/clock.ts";

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
export async function noteSetup({ market: marketId, rung, ...setup }: SetupDto, accountId: string): Promise<string> {
  await findMarket(marketId);
  if (rewardToRisk(setup) === undefined)
    throw new Failure("setup", "Stop and target stand on the wrong sides of the entry.", {
      kept: "Nothing was noted.",
      fields: { stop: "The stop lies against the direction, the target with it." },
    });
  const id = randomUUID();
  await SetupRow.create({
    id,
    accountId,
    marketId,
    rung,
    setup: { ...setup, reason: setup.reason.trim() },
    notedAt: (await readClock()).now,
  });
  return id;
}

export async function removeSetup(id: string, accountId: string): Promise<void> {
  if ((await SetupRow.destroy({ where: { id, accountId } })) === 0) throw notFound("setup");
}

/** Setups that were not taken, the newest first, with what would have become of them on the finest bars there are. */
export async function setupsOf(accountId: string, limit = 50): Promise<NotedSetup[]> {
  const rows = await SetupRow.findAll({ where: { accountId }, order: [["notedAt", "DESC"]], limit });
  const markets = new Map(
    (await Market.findAll({ where: { id: [...new Set(rows.map(({ marketId }) => marketId))] } })).map((market) => [
      market.id,
      market,
    ]),
  );
  const out: NotedSetup[] = [];
  for (const { id, marketId, rung, setup, notedAt } of rows) {
    const market = markets.get(marketId);
    if (!market) continue;
    const fine = await finestOf(market);
    const outcome: SetupOutcome = fine
      ? outcomeOf(setup, fine.series, notedAt, fine.closeOf)
      : { end: "open", at: undefined, r: 0, ambiguous: false };
    out.push({ ...setup, id, market: marketId, name: market.name, decimals: market.decimals, rung, notedAt, outcome });
  }
  return out;
}
