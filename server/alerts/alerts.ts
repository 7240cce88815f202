import { randomUUID } from "node:crypto";
import { Op } from "sequelize";
import { readTerms, type AlertDto } from "#contracts/alert";
import { placeOf } from "#core/alerts/alert";
import { sayAlert } from "#core/alerts/say";
import { toldUntilOf } from "./material.ts";
import { findMarket } from "../bars/markets.ts";
import { readTimeframe } from "../bars/timeframes.ts";
import { transact } from "../database/connection.ts";
import { AlertRow, FiringRow, Market, MarkRow } from "../database/models.ts";
import { Failure, notFound } from "../failure.ts";

export interface AlertLine {
  id: string;
  market: string;
  name: string;
  says: string;
  note: string;
  active: boolean;
  again: boolean;
  createdAt: number;
}

export interface FiringLine {
  number: number;
  alert: string;
  market: string;
  name: string;
  firedAt: number;
  says: string;
  note: string;
  seen: boolean;
}

const MOST = 500;

/** Sets an alert: it is shown the bars that are over from now on. Returns its id. */
export async function setAlert(marketId: string, dto: AlertDto, accountId: string): Promise<string> {
  const market = await findMarket(marketId);
  const terms = readTerms(dto.terms);
  if (!terms)
    throw new Failure("terms", "What the alert waits for cannot be read.", { kept: "No alert was set.", status: 400 });
  const place = placeOf(terms);
  if ("rung" in terms) readTimeframe(terms.rung);
  if (place && place.bottom > place.top)
    throw new Failure("place", "The lower price of a place is not above its upper one.", { kept: "No alert was set." });
  if (place?.mark && !(await MarkRow.findOne({ where: { id: place.mark, marketId, removed: false } })))
    throw notFound("mark");
  if ((await AlertRow.count({ where: { accountId, active: true } })) >= MOST)
    throw new Failure("many", `There are ${MOST} alerts already.`, {
      kept: "No alert was set.",
      remedy: "Remove some that are no longer wanted.",
    });
  const told = await toldUntilOf(market);
  if (told === undefined)
    throw new Failure("no-bars", `${market.name} has no bars yet.`, {
      kept: "No alert was set.",
      remedy: "Import bars first.",
    });
  const id = randomUUID();
  await AlertRow.create({ id, accountId, marketId, terms, state: [], told, active: true, createdAt: told });
  return id;
}

export async function removeAlert(id: string, accountId: string): Promise<void> {
  if ((await AlertRow.destroy({ where: { id, accountId } })) === 0) throw notFound("alert");
}

export async function alertsOf(accountId: string): Promise<AlertLine[]> {
  const [rows, markets] = await Promise.all([
    AlertRow.findAll({
      where: { accountId },
      order: [
        ["active", "DESC"],
        ["createdAt", "DESC"],
        ["id", "ASC"],
      ],
      limit: 2 * MOST,
    }),
    Market.findAll(),
  ]);
  const known = new Map(markets.map((market) => [market.id, market]));
  return rows.flatMap(({ id, marketId, terms, active, createdAt }) => {
    const market = known.get(marketId);
    return market
      ? [
          {
            id,
            market: marketId,
            name: market.name,
            says: sayAlert(terms, market),
            note: terms.note,
            active,
            again: terms.again,
            createdAt,
          },
        ]
      : [];
  });
}

/** The newest firings of an account's alerts. */
export async function firingsOf(accountId: string, limit = 50): Promise<FiringLine[]> {
  const alerts = await AlertRow.findAll({ where: { accountId }, attributes: ["id", "marketId", "terms"] });
  const byId = new Map(alerts.map((alert) => [alert.id, alert]));
  const names = new Map(
    (await Market.findAll({ attributes: ["id", "name"], raw: true })).map(({ id, name }) => [id, name]),
  );
  const rows = await FiringRow.findAll({ where: { alertId: [...byId.keys()] }, order: [["number", "DESC"]], limit });
  return rows.flatMap(({ number, alertId, firedAt, says, seen }) => {
    const alert = byId.get(alertId);
    return alert
      ? [
          {
            number,
            alert: alertId,
            market: alert.marketId,
            name: names.get(alert.marketId) ?? alert.marketId,
            firedAt,
            says,
            note: alert.terms.note,
            seen,
          },
        ]
      : [];
  });
}

/** Marks firings up to a number as seen. */
export function seenFirings(upTo: number, accountId: string): Promise<void> {
  return transact(async (transaction) => {
    const alerts = await AlertRow.findAll({ where: { accountId }, attributes: ["id"], transaction });
    await FiringRow.update(
      { seen: true },
      { where: { alertId: alerts.map(({ id }) => id), number: { [Op.lte]: upTo }, seen: false }, transaction },
    );
  });
}

/** The number of the newest firing of all: changes when something fired. */
export async function newestFiring(): Promise<number> {
  return (await FiringRow.max<number | null, FiringRow>("number")) ?? 0;
}
