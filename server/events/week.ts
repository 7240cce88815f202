import { LRUCache } from "lru-cache";
import { Op } from "sequelize";
import { reactionOf, reactionsTo, type Reaction } from "#core/events/reaction";
import { touches, type Ties } from "#core/events/touches";
import { Calendar } from "#core/time/calendar";
import { DAY, dayNumber, formatDate } from "#core/time/dates";
import { listMarkets } from "../bars/markets.ts";
import { seriesOf } from "../bars/series.ts";
import { EventRow, type Market } from "../database/models.ts";
import { readClock } from "../clock.ts";
import { openStandings } from "../watch/standing.ts";
import { eventsBetween, tiesOf, type StoredEvent } from "./events.ts";

/** An event of a week, with whom it touches and what that has come to before. */
export interface WeekEvent extends StoredEvent {
  touched: string[];
  /** How the markets that react most have reacted to it before. */
  reactions: (Reaction & { market: string })[];
  /** Published scenarios on those markets that are not over. */
  open: { title: string; edition: number; market: string }[];
}

/** A date on which markets stand still, or close early. */
export interface ClosedDay {
  date: string;
  closed: string[];
  /** With the clock times at which they close, in their own zones. */
  early: { market: string; at: string }[];
}

export interface EventWeek {
  events: WeekEvent[];
  closed: ClosedDay[];
}

const DAYS = 7;
/** Past releases that reactions are measured of, and how far back they are looked for. */
const MOST_PAST = 24;
const BACK = 1100 * DAY;
/** Markets whose reactions are told at an event. */
const TOLD = 3;
const FIFTEEN_MINUTES = 900_000;

/** The week from a date on (midnight UTC), by the ties of every market. */
export async function weekFrom(from: number): Promise<EventWeek> {
  const { now } = await readClock();
  const [events, markets] = await Promise.all([eventsBetween(from, from + DAYS * DAY), listMarkets()]);
  const tied = await Promise.all(markets.map(async (market) => ({ market, ties: await tiesOf(market) })));
  const open = await openStandings();
  const past = await pastReleases(events, now);
  return {
    events: await Promise.all(events.map((event) => told(event, tied, open, past.get(titleOf(event)) ?? []))),
    closed: closedDays(markets, from),
  };
}

const titleOf = ({ title }: Pick<StoredEvent, "title">) => title.trim().toLowerCase();

async function told(
  event: StoredEvent,
  tied: readonly { market: Market; ties: Ties[] }[],
  open: Awaited<ReturnType<typeof openStandings>>,
  past: readonly number[],
): Promise<WeekEvent> {
  const own = tied.filter(({ market, ties }) => touches(event, { id: market.id, ties }) !== undefined);
  const markets = own.map(({ market }) => market);
  const reactions = await Promise.all(
    markets.map(async (market) => ({ market: market.name, reaction: await reactionTo(market, past) })),
  );
  return {
    ...event,
    touched: markets.map(({ name }) => name),
    reactions: reactions
      .flatMap(({ market, reaction }) => (reaction ? [{ market, ...reaction }] : []))
      .sort((a, b) => b.median - a.median)
      .slice(0, TOLD),
    open: open.flatMap(({ title, edition, market: id }) => {
      const market = markets.find((one) => one.id === id);
      return market ? [{ title, edition, market: market.name }] : [];
    }),
  };
}

/** When events of the names of some were before, by name; the latest first. */
async function pastReleases(events: readonly StoredEvent[], now: number): Promise<Map<string, number[]>> {
  const names = new Set(events.filter(({ kind, allDay }) => kind === "release" && !allDay).map(titleOf));
  const out = new Map<string, number[]>();
  if (names.size === 0) return out;
  const rows = await EventRow.findAll({
    where: { at: { [Op.gte]: now - BACK, [Op.lt]: now } },
    order: [["at", "DESC"]],
    limit: 20_000,
    raw: true,
  });
  for (const { at, event } of rows) {
    const name = titleOf(event);
    const known = out.get(name) ?? [];
    if (names.has(name) && known.length < MOST_PAST) out.set(name, [...known, at]);
  }
  return out;
}

const known = new LRUCache<string, { reaction: Reaction | undefined }>({ max: 5000 });

async function reactionTo(market: Market, past: readonly number[]): Promise<Reaction | undefined> {
  if (past.length === 0) return undefined;
  const key = `${market.id} ${market.history} ${past.join()}`;
  const before = known.get(key);
  if (before) return before.reaction;
  const [fine, days] = [await seriesOf(market, "PT15M"), await seriesOf(market, "P1D")];
  const reaction = reactionOf(reactionsTo(past, fine, FIFTEEN_MINUTES, days));
  known.set(key, { reaction });
  return reaction;
}

function closedDays(markets: readonly Market[], from: number): ClosedDay[] {
  const dates = Array.from({ length: DAYS }, (_, i) => formatDate(dayNumber(from) + i));
  return dates.flatMap((date) => {
    const closed = markets.filter(({ calendar }) => isHoliday(calendar, date)).map(({ name }) => name);
    const early = markets.flatMap(({ name, calendar: { halfDays = {} } }) =>
      halfDays[date] === undefined ? [] : [{ market: name, at: halfDays[date] }],
    );
    return closed.length + early.length > 0 ? [{ date, closed, early }] : [];
  });
}

/** A date on the list of holidays on which it would trade otherwise. */
function isHoliday(spec: Market["calendar"], date: string): boolean {
  if (!spec.holidays?.includes(date)) return false;
  return new Calendar({ ...spec, holidays: [], halfDays: {} }).trades(Date.parse(`${date}T00:00:00Z`) / DAY);
}
