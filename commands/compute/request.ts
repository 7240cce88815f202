import { readFileSync } from "node:fs";
import Papa from "papaparse";
import { readBars, recognise } from "#core/csv/barfile";
import { resample } from "#core/series/resample";
import { firstAtOrAfter, slice, type Series } from "#core/series/series";
import { tickOf } from "#core/series/tick";
import { ALL_HOURS, Calendar, checkCalendar, type CalendarSpec, type SessionRule } from "#core/time/calendar";
import { DAY, parseDate } from "#core/time/dates";
import { divides, formatTimeframe, isIntraday, parseTimeframe, type Timeframe } from "#core/time/timeframe";
import { instantOf, isZone } from "#core/time/zone";
import { RequestFault } from "./fault.ts";

export type Fields = Record<string, unknown>;

/** Everything a quantity is computed from. */
export interface Input {
  /** Bars of `timeframe`, already cut as of the asked moment. */
  series: Series;
  timeframe: Timeframe;
  calendar: Calendar;
  zone: string;
  /** Smallest step of prices, as the request names it or as the file shows it. */
  tick(): number;
  /** The moment nothing later of is seen, as the request names it. */
  asOf: unknown;
}

export function asFields(value: unknown, name: string): Fields {
  if (typeof value !== "object" || value === null || Array.isArray(value)) throw new RequestFault(`"${name}" must be an object.`);
  return value as Fields;
}

export function readTimeframeField(value: unknown, name: string): Timeframe {
  const found = typeof value === "string" ? parseTimeframe(value) : undefined;
  if (!found) throw new RequestFault(`"${name}" must be an ISO 8601 duration such as PT4H, P1D or P3M.`);
  return found;
}

/** The bars a request names, on the timeframe and as of the moment it asks for. */
export function readInput(request: Fields): Input | undefined {
  if (request.bars === undefined) return undefined;
  const bars = asFields(request.bars, "bars");
  const { series: cut, base, zone } = readCut(bars, "bars", request.asOf);
  const calendar = readCalendar(request.market, zone);
  const named = request.market === undefined ? undefined : asFields(request.market, "market").tick;
  if (named !== undefined && !(typeof named === "number" && named > 0 && named < 1e12)) throw new RequestFault(`"market.tick" must be a number above zero.`);
  const input = { calendar, zone, tick: () => named ?? tickOf(cut), asOf: request.asOf };
  if (request.timeframe === undefined) return { series: cut, timeframe: base, ...input };
  const timeframe = readTimeframeField(request.timeframe, "timeframe");
  return { series: derive(cut, base, timeframe, calendar), timeframe, ...input };
}

/** Bars of a file as of a moment, their timeframe and the zone their times are in. */
function readCut(bars: Fields, name: string, asOf: unknown): { series: Series; base: Timeframe; zone: string } {
  const base = readTimeframeField(bars.timeframe ?? "P1D", `${name}.timeframe`);
  const zone = bars.timezone ?? "UTC";
  if (typeof zone !== "string" || !isZone(zone)) throw new RequestFault(`"${name}.timezone" must be a zone of the IANA database.`);
  const whole = readBarFile(bars.file, zone, name);
  return { series: asOf === undefined ? whole : slice(whole, 0, cutIndex(whole, asOf, zone, isIntraday(base))), base, zone };
}

/** Bars of another file that a quantity names, on the same timeframe and as of the same moment. */
export function readOther(fields: Fields, { timeframe, calendar, asOf }: Input): Series {
  const { series, base } = readCut(fields, "with", asOf);
  return formatTimeframe(base) === formatTimeframe(timeframe) ? series : derive(series, base, timeframe, calendar);
}

export function derive(series: Series, base: Timeframe, timeframe: Timeframe, calendar: Calendar): Series {
  if (!divides(base, timeframe))
    throw new RequestFault(`Bars of ${formatTimeframe(base)} do not make bars of ${formatTimeframe(timeframe)}.`);
  return resample(series, base, timeframe, calendar);
}

function readCalendar(value: unknown, zone: string): Calendar {
  if (value === undefined) return new Calendar({ ...ALL_HOURS, zone });
  const market = asFields(value, "market");
  const spec: CalendarSpec = {
    zone: typeof market.timezone === "string" ? market.timezone : zone,
    sessions: Array.isArray(market.sessions) ? (market.sessions as SessionRule[]) : ALL_HOURS.sessions,
    holidays: Array.isArray(market.holidays) ? (market.holidays as string[]) : [],
    halfDays: market.halfDays === undefined ? {} : (asFields(market.halfDays, "market.halfDays") as Record<string, string>),
  };
  let problems: string[];
  try {
    problems = checkCalendar(spec);
  } catch {
    problems = [`a session is { "days": [1, 2], "open": "09:00", "close": "17:00" }.`];
  }
  if (problems.length > 0) throw new RequestFault(`"market": ${problems[0]}`);
  return new Calendar(spec);
}

/** Columns of a CSV file; any bad row is a fault of the request. */
export function readBarFile(file: unknown, zone: string, name = "bars"): Series {
  if (typeof file !== "string") throw new RequestFault(`"${name}.file" must be the path of a CSV file.`);
  let text: string;
  try {
    text = readFileSync(file, "utf8");
  } catch {
    throw new RequestFault(`The file "${file}" cannot be read.`);
  }
  const { data } = Papa.parse<string[]>(text.replace(/^\ufeff/, ""), { skipEmptyLines: true });
  const [header = [], ...rows] = data;
  const format = recognise(header, rows.slice(0, 1000), zone);
  if (typeof format === "string") throw new RequestFault(`The file "${file}": ${format}`);
  const { series, faults } = readBars(rows, format, (i) => i + 2);
  if (faults.length > 0) throw new RequestFault(`The file "${file}", line ${faults[0].line}: ${faults[0].reason}`);
  return series;
}

/** Number of bars that the file cut after `asOf` would hold. A date means to its end. */
function cutIndex(series: Series, asOf: unknown, zone: string, intraday: boolean): number {
  const time = readMoment(asOf, "asOf", zone);
  const day = typeof asOf === "string" ? parseDate(asOf) : undefined;
  const last = day !== undefined && intraday ? instantOf((day + 1) * DAY, zone) - 1 : time;
  return firstAtOrAfter(series, last + 0.5);
}

/** An ISO 8601 date (midnight UTC) or date and time (in `zone` when it has no offset) -> ms UTC. */
export function readMoment(value: unknown, name: string, zone: string): number {
  if (typeof value === "string") {
    const day = parseDate(value);
    if (day !== undefined) return day * DAY;
    const offset = /(Z|[+-]\d{2}:?\d{2})$/.test(value);
    const time = /^\d{4}-\d{2}-\d{2}T/.test(value) ? Date.parse(offset ? value : `${value}Z`) : NaN;
    if (!Number.isNaN(time)) return offset ? time : instantOf(time, zone);
  }
  throw new RequestFault(`"${name}" must be an ISO 8601 date or time.`);
}
