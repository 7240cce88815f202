import { Op, type Transaction } from "sequelize";
import type { MarketFacts } from "#core/marks/kind";
import { Calendar } from "#core/time/calendar";
import { Market } from "../database/models.ts";
import { notFound } from "../failure.ts";

export async function findMarket(id: string, transaction?: Transaction): Promise<Market> {
  const market = await Market.findByPk(id, { transaction });
  if (!isThe(market, id)) throw notFound("market");
  return market;
}

/**
 * Whether what was found has the very id that was asked for: the database takes capitals and accents for the same
 * letter.
 */
function isThe(market: Market | null, id: string): market is Market {
  return market?.id === id;
}

export function listMarkets(): Promise<Market[]> {
  return Market.findAll({ order: [["name", "ASC"]] });
}

/** Locks a market against other writers. */
export async function lockMarket(id: string, transaction: Transaction): Promise<Market> {
  const market = await Market.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE });
  if (!isThe(market, id)) throw notFound("market");
  return market;
}

/** The legs of a derived market in the order of its formula; none of any other market. */
export async function legsOf({ formula }: Pick<Market, "formula">, transaction?: Transaction): Promise<Market[]> {
  if (!formula) return [];
  const ids = formula.legs.map(({ market }) => market);
  const found = new Map(
    (await Market.findAll({ where: { id: ids }, transaction })).map((market) => [market.id, market]),
  );
  return ids.map((id) => found.get(id)).filter((market) => market !== undefined);
}

/** Markets and every one that is derived from them, each once, derived ones after their legs. */
export async function withDependents(markets: readonly Market[], transaction: Transaction): Promise<Market[]> {
  const derived = await Market.findAll({ where: { formula: { [Op.ne]: null } }, order: [["id", "ASC"]], transaction });
  const found = [...markets];
  for (let i = 0; i < found.length; i++)
    for (const one of derived)
      if (!found.some(({ id }) => id === one.id) && one.formula?.legs.some((leg) => leg.market === found[i].id))
        found.push(one);
  return found;
}

export function factsOf({ id, name, tick, pip, pipName, decimals }: Market): MarketFacts {
  return { id, name, tick, pip, pipName, decimals };
}

const calendars = new Map<string, Calendar>();

/** The market's calendar; kept by its text, so that a changed one is a new one. */
export function calendarOf(market: Pick<Market, "calendar">): Calendar {
  const key = JSON.stringify(market.calendar);
  let calendar = calendars.get(key);
  if (!calendar) calendars.set(key, (calendar = new Calendar(market.calendar)));
  return calendar;
}
