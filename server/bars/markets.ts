import type { Transaction } from "sequelize";
import type { MarketFacts } from "#core/marks/kind";
import { Calendar } from "#core/time/calendar";
import { Market } from "../database/models.ts";
import { notFound } from "../failure.ts";

export async function findMarket(id: string, transaction?: Transaction): Promise<Market> {
  const market = await Market.findByPk(id, { transaction });
  if (!market) throw notFound("market");
  return market;
}

export function listMarkets(): Promise<Market[]> {
  return Market.findAll({ order: [["name", "ASC"]] });
}

/** Locks a market against other writers. */
export async function lockMarket(id: string, transaction: Transaction): Promise<Market> {
  const market = await Market.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE });
  if (!market) throw notFound("market");
  return market;
}

/** Counts a locked market's revision up: every change of bars does. */
export function bumpRevision(market: Market, transaction: Transaction): Promise<Market> {
  return market.update({ revision: market.revision + 1 }, { transaction });
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
