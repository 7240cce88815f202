import { randomUUID } from "node:crypto";
import { Op } from "sequelize";
import { readTerms, type AlertDto } from "#contracts/alert";
import { placeOf, type AlertTerms } from "#core/alerts/alert";
import { sayAlert, sayFiring } from "#core/alerts/say";
import { CALM, scenarioAlert } from "#core/alerts/watcher";
import { writtenOf } from "#core/written/former";
import { contractOf } from "#core/written/ground";
import { termsOfContract } from "#core/written/read";
import { finestUntil } from "../bars/finest.ts";
import { lockMarket } from "../bars/markets.ts";
import { readTimeframe } from "../bars/timeframes.ts";
import { transact } from "../database/connection.ts";
import { beginToWatch, endWatch } from "../watch/tell.ts";
import { factsOfWatch } from "../watch/scenarios.ts";
import { AlertRow, FiringRow, Market, MarkRow, ScenarioRow, WatcherRow } from "../database/models.ts";
import { isSealed } from "../database/sealing.ts";
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
  const said = readTerms(dto.terms);
  const terms = said?.on === "scenario" ? await onScenario(marketId, said) : said;
  if (!terms)
    throw new Failure("terms", "What the alert waits for cannot be read.", { kept: "No alert was set.", status: 400 });
  const place = placeOf(terms);
  if ("rung" in terms) readTimeframe(terms.rung);
  if (place && place.bottom > place.top)
    throw new Failure("place", "The lower price of a place is not above its upper one.", { kept: "No alert was set." });
  return transact(async (transaction) => {
    const market = await lockMarket(marketId, transaction);
    if (place?.mark && !(await MarkRow.findOne({ where: { id: place.mark, marketId, removed: false } })))
      throw notFound("mark");
    if ((await activeOf(accountId)).size >= MOST)
      throw new Failure("many", `There are ${MOST} alerts already.`, {
        kept: "No alert was set.",
        remedy: "Remove some that are no longer wanted.",
      });
    const since = await finestUntil(market);
    if (since === undefined)
      throw new Failure("no-bars", `${market.name} has no bars yet.`, {
        kept: "No alert was set.",
        remedy: "Import bars first.",
      });
    const id = randomUUID();
    await AlertRow.create({ id, accountId, marketId, terms, createdAt: since }, { transaction });
    await beginToWatch(
      market,
      [{ kind: "alert", subject: id, start: startOf(terms, market, since) }],
      since,
      transaction,
    );
    return id;
  });
}

type OnScenario = Extract<AlertTerms, { on: "scenario" }>;

/** What a scenario says as it is stored just now. */
async function onScenario(marketId: string, terms: OnScenario): Promise<OnScenario> {
  const row = await ScenarioRow.findOne({ where: { id: terms.scenario, marketId, removed: false } });
  if (!row) throw notFound("scenario");
  const written = writtenOf(row.scenario);
  return { ...terms, title: written.title, terms: contractOf(written.terms), again: true };
}

function startOf(terms: AlertTerms, market: Market, since: number): unknown {
  if (terms.on !== "scenario") return CALM;
  return scenarioAlert(termsOfContract(terms.terms), factsOfWatch(market, since)).start;
}

/** A scenario was written anew, or taken away: whoever is told of its steps is told of those it has now. */
export function scenarioChanged(marketId: string, scenario: string, isRemoved: boolean): Promise<void> {
  return transact(async (transaction) => {
    const rows = await AlertRow.findAll({ where: { marketId }, transaction });
    const on = rows.filter(({ terms }) => terms.on === "scenario" && terms.scenario === scenario);
    if (on.length === 0) return;
    const market = await lockMarket(marketId, transaction);
    const since = (await finestUntil(market)) ?? 0;
    for (const row of on) {
      await endWatch("alert", row.id, transaction);
      if (isRemoved) await row.destroy({ transaction });
      else {
        const terms = await onScenario(marketId, row.terms as OnScenario);
        await row.update({ terms }, { transaction });
        const start = startOf(terms, market, since);
        await beginToWatch(market, [{ kind: "alert", subject: row.id, start }], since, transaction);
      }
    }
  });
}

/** Ids of an account's alerts that still wait. */
async function activeOf(accountId: string): Promise<Set<string>> {
  const own = await AlertRow.findAll({ where: { accountId }, attributes: ["id"], raw: true });
  const where = { kind: "alert" as const, subject: own.map(({ id }) => id), done: false };
  const rows = await WatcherRow.findAll({ where, attributes: ["subject"], raw: true });
  return new Set(rows.map(({ subject }) => subject));
}

export function removeAlert(id: string, accountId: string): Promise<void> {
  return transact(async (transaction) => {
    if ((await AlertRow.destroy({ where: { id, accountId }, transaction })) === 0) throw notFound("alert");
    await endWatch("alert", id, transaction);
  });
}

/** An account's alerts, those that still wait first, of each the newest first. */
export async function alertsOf(accountId: string): Promise<AlertLine[]> {
  const [rows, active, markets] = await Promise.all([
    AlertRow.findAll({
      where: { accountId },
      order: [
        ["createdAt", "DESC"],
        ["id", "ASC"],
      ],
    }),
    activeOf(accountId),
    Market.findAll(),
  ]);
  const known = new Map(markets.map((market) => [market.id, market]));
  const lines = rows.filter(isSealed).flatMap(({ id, marketId, terms, createdAt }): AlertLine[] => {
    const market = known.get(marketId);
    if (!market) return [];
    const { note, again } = terms;
    const says = sayAlert(terms, market);
    return [{ id, market: marketId, name: market.name, says, note, active: active.has(id), again, createdAt }];
  });
  return lines.sort((a, b) => Number(b.active) - Number(a.active)).slice(0, 2 * MOST);
}

/** The newest firings of an account's alerts. */
export async function firingsOf(accountId: string, limit = 50): Promise<FiringLine[]> {
  const alerts = (await AlertRow.findAll({ where: { accountId } })).filter(isSealed);
  const byId = new Map(alerts.map((alert) => [alert.id, alert]));
  const markets = new Map((await Market.findAll()).map((market) => [market.id, market]));
  const rows = await FiringRow.findAll({ where: { alertId: [...byId.keys()] }, order: [["number", "DESC"]], limit });
  return rows.filter(isSealed).flatMap(({ number, alertId, firedAt, detail, says: said, seen }): FiringLine[] => {
    const alert = byId.get(alertId);
    const market = alert && markets.get(alert.marketId);
    if (!alert || !market) return [];
    const says = detail ? sayFiring(alert.terms, detail, market) : (said ?? "");
    const { note } = alert.terms;
    return [{ number, alert: alertId, market: market.id, name: market.name, firedAt, says, note, seen }];
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
