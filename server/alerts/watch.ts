import { QueryTypes } from "sequelize";
import { evaluateAlert } from "#core/alerts/evaluate";
import { transact } from "../database/connection.ts";
import { AlertRow, FiringRow, Market } from "../database/models.ts";
import { log } from "../log.ts";
import { materialOf, toldUntilOf } from "./material.ts";

/**
 * Shows the alerts of a market the bars that are over since they were last shown any. What an alert was shown and what
 * it fired are stored together, so that a process that ends in between has done nothing, and the next one goes on where
 * this one stood; two at once wait for each other. Returns how many fired.
 */
export function tellAlerts(marketId: string): Promise<number> {
  return transact(async (transaction) => {
    const rows = await AlertRow.findAll({
      where: { marketId, active: true },
      transaction,
      lock: transaction.LOCK.UPDATE,
    });
    const market = await Market.findByPk(marketId, { transaction });
    const until = market && rows.length > 0 ? await toldUntilOf(market) : undefined;
    if (!market || until === undefined) return 0;
    let fired = 0;
    for (const row of rows) {
      if (row.told >= until) continue;
      const material = await materialOf(market, row.terms);
      // Its mark is gone: there is nothing left to wait for.
      if (!material) {
        await row.update({ active: false }, { transaction });
        continue;
      }
      const { firings, state } = evaluateAlert(row.terms, row.state, material, { told: row.told, until });
      const kept = row.terms.again ? firings : firings.slice(0, 1);
      await FiringRow.bulkCreate(
        kept.map(({ event, at, says }) => ({
          alertId: row.id,
          event,
          firedAt: at,
          says: says.slice(0, 500),
          seen: false,
        })),
        { transaction },
      );
      await row.update({ told: until, state, active: row.terms.again || kept.length === 0 }, { transaction });
      fired += kept.length;
    }
    return fired;
  });
}

/** Markets that have alerts waiting, with their revisions. */
async function watchedMarkets(): Promise<{ id: string; revision: number }[]> {
  return AlertRow.sequelize!.query(
    "SELECT id, revision FROM markets WHERE id IN (SELECT marketId FROM alerts WHERE active)",
    { type: QueryTypes.SELECT },
  );
}

/** Looks every now and then which markets have new bars and tells their alerts of them, until it is stopped. */
export function watchAlerts(every = 500): () => Promise<void> {
  let stopped = false;
  let timer: NodeJS.Timeout;
  const told = new Map<string, number>();
  let step = Promise.resolve();
  const look = async () => {
    try {
      for (const { id, revision } of await watchedMarkets()) {
        if (stopped) return;
        if (told.get(id) === revision) continue;
        const fired = await tellAlerts(id);
        told.set(id, revision);
        if (fired > 0) log.info({ market: id, fired }, "alerts fired");
      }
    } catch (error) {
      log.error({ error: String(error) }, "the alerts could not be told of new bars");
    }
  };
  const go = () => {
    step = look().then(() => {
      if (!stopped) timer = setTimeout(go, every);
    });
  };
  timer = setTimeout(go, every);
  return async () => {
    stopped = true;
    clearTimeout(timer);
    await step;
  };
}
