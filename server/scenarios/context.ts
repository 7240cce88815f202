import { aligned, correlation } from "#core/studies/correlation";
import { regularCalendar } from "#core/series/hours";
import { Calendar } from "#core/time/calendar";
import { DAY, dayNumber, formatDate } from "#core/time/dates";
import { findMarket } from "../bars/markets.ts";
import { seriesAsOf } from "../bars/series.ts";
import { readClock } from "../clock.ts";
import { Market } from "../database/models.ts";
import { eventsOn, type TouchingEvent } from "../events/events.ts";
import { openStandings } from "../watch/standing.ts";
import { frozenScenarios } from "../record/frozen.ts";

/** What a scenario is held against besides what its market's desk shows. */
export interface ScenarioContext {
  /** Releases, speeches, holidays and expiries within its life that touch the market. */
  events: TouchingEvent[];
  /** Dates within its life on which the market stands still on a weekday it trades, and on which it closes early. */
  holidays: string[];
  halfDays: string[];
  /** Published scenarios of other markets that are not over, with how daily returns went together. */
  others: {
    title: string;
    market: string;
    direction: "long" | "short";
    correlation: number;
    n: number;
  }[];
}

/** Daily returns that correlations are of, and the days that are read for them. */
const RETURNS = 60;
const LATELY = 120 * DAY;
/** A life longer than this is looked at no further. */
const LONGEST = 400 * DAY;

export async function scenarioContext(marketId: string, until: number): Promise<ScenarioContext> {
  const market = await findMarket(marketId);
  const { now } = await readClock();
  const end = Math.min(until, now + LONGEST);
  const { holidays, halfDays } = closedDays(market, now, end);
  return { events: await eventsOn(market, now, end), holidays, halfDays, others: await othersOf(market, now) };
}

function closedDays(market: Market, from: number, until: number): { holidays: string[]; halfDays: string[] } {
  const { holidays = [], halfDays = {} } = market.calendar;
  const [first, last] = [formatDate(dayNumber(from)), formatDate(dayNumber(until))];
  const within = (date: string) => date >= first && date <= last;
  // Regular hours alone: a date that never trades is no holiday of it.
  const usual = new Calendar({ ...regularCalendar(market.calendar), holidays: [], halfDays: {} });
  return {
    holidays: holidays.filter((date) => within(date) && usual.trades(Date.parse(`${date}T00:00:00Z`) / DAY)),
    halfDays: Object.keys(halfDays).filter(within),
  };
}

async function othersOf(market: Market, now: number): Promise<ScenarioContext["others"]> {
  const open = (await openStandings()).filter((one) => one.market !== market.id);
  if (open.length === 0) return [];
  const own = await seriesAsOf(market, "P1D", "all", now, now - LATELY);
  const frozen = await frozenScenarios(open.map(({ edition }) => edition));
  const names = [...new Set(open.map((one) => one.market))];
  const together = new Map<string, { name: string; r: number; n: number }>();
  for (const other of await Market.findAll({ where: { id: names } })) {
    const { a, b } = aligned(own, await seriesAsOf(other, "P1D", "all", now, now - LATELY));
    const n = Math.min(RETURNS, a.length - 1);
    if (n >= 20) together.set(other.id, { name: other.name, r: correlation(a, b, n).at(-1) ?? NaN, n });
  }
  return open.flatMap(({ edition, scenarioId, title, market: id }) => {
    const of = together.get(id);
    const direction = frozen.get(edition)?.get(scenarioId)?.terms.direction;
    return of && direction && Number.isFinite(of.r)
      ? [{ title, market: of.name, direction, correlation: of.r, n: of.n }]
      : [];
  });
}
