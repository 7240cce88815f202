import { readFileSync } from "node:fs";
import Papa from "papaparse";
import { readBars, recognise } from "#core/csv/barfile";
import { knownAt } from "#core/series/asOf";
import { deriveFromLayers, type Layer } from "#core/series/layers";
import { closeOfBar, resample } from "#core/series/resample";
import { slice, type Series } from "#core/series/series";
import { tickOf } from "#core/series/tick";
import { ALL_HOURS, Calendar, checkCalendar, type CalendarSpec, type SessionRule } from "#core/time/calendar";
import { DAY, MINUTE, parseDate } from "#core/time/dates";
import {
  divides,
  formatTimeframe,
  isIntraday,
  nominalLength,
  parseTimeframe,
  type Timeframe,
} from "#core/time/timeframe";
import { instantOf, isZone } from "#core/time/zone";
import { RequestFault } from "./fault.ts";

export type Fields = Record<string, unknown>;

/** Everything a quantity is computed from. */
export interface Input {
  /** What the files hold as of the asked moment, the longest resolution first. */
  layers: readonly Layer[];
  /** Bars of `timeframe`, already cut as of the asked moment. */
  series: Series;
  timeframe: Timeframe;
  calendar: Calendar;
  zone: string;
  /** Smallest step of prices, as the request names it or as the file shows it. */
  tick(): number;
  /** Other markets by the names they are called. */
  also: Readonly<Record<string, { layers: readonly Layer[]; tick(): number }>>;
  /** The moment nothing later of is seen, as the request names it. */
  asOf: unknown;
}

/** An object of the request; with `known` one that has no other fields: a slip of the pen is a fault, never ignored. */
export function asFields(value: unknown, name: string, known?: readonly string[]): Fields {
  if (typeof value !== "object" || value === null || Array.isArray(value))
    throw new RequestFault(`"${name}" must be an object.`);
  const stray = known && Object.keys(value).find((field) => !known.includes(field));
  if (stray !== undefined) throw new RequestFault(`"${name}" has no field "${stray}"; it has ${known?.join(", ")}.`);
  return value as Fields;
}

const FILE = ["file", "timeframe", "timezone"];
const MARKET = ["tick", "timezone", "sessions", "holidays", "halfDays"];
const SESSION = ["days", "open", "close", "opensDayBefore", "kind"];
/** The fields of a request. */
export const REQUEST = ["bars", "market", "timeframe", "asOf", "also", "ask"];

export function readTimeframeField(value: unknown, name: string): Timeframe {
  const found = typeof value === "string" ? parseTimeframe(value) : undefined;
  if (!found) throw new RequestFault(`"${name}" must be an ISO 8601 duration such as PT4H, P1D or P3M.`);
  return found;
}

/** A period of a day or longer that bars of a timeframe make up. */
export function readPeriod(value: unknown, name: string, base: Timeframe): Timeframe {
  const period = readTimeframeField(value, name);
  if (isIntraday(period) || !divides(base, period))
    throw new RequestFault(`"${name}" must be a day or longer, and one that the bars make up.`);
  return period;
}

/** The bars a request names, on the timeframe and as of the moment it asks for. */
export function readInput(request: Fields): Input | undefined {
  if (request.bars === undefined) return undefined;
  const files = readFiles(request.bars, "bars");
  const zone = readZone(files[0].timezone, "bars.timezone", "UTC");
  const market = request.market === undefined ? {} : asFields(request.market, "market", MARKET);
  const calendar = readCalendar(market, zone);
  const layers = readLayers(files, "bars", zone, calendar, request.asOf);
  const named = market.tick;
  if (named !== undefined && !(typeof named === "number" && named > 0 && named < 1e12))
    throw new RequestFault(`"market.tick" must be a number above zero.`);
  const finest = layers[layers.length - 1];
  const also = readAlso(request, calendar);
  const input = { layers, calendar, zone, tick: () => named ?? tickOf(finest.series), also, asOf: request.asOf };
  const timeframe = request.timeframe === undefined ? finest.base : readTimeframeField(request.timeframe, "timeframe");
  return { series: closedBy(input, seriesFrom(layers, timeframe, calendar), timeframe), timeframe, ...input };
}

function readFiles(value: unknown, name: string): Fields[] {
  const files = Array.isArray(value)
    ? value.map((bars, i) => asFields(bars, `${name}[${i}]`, FILE))
    : [asFields(value, name, FILE)];
  if (files.length === 0) throw new RequestFault(`"${name}" names no file.`);
  return files;
}

/** Bars of other markets, by the sessions of the asked one. */
function readAlso({ also, asOf }: Fields, calendar: Calendar): Input["also"] {
  const read = Object.entries(asFields(also ?? {}, "also")).map(([market, value]) => {
    const files = readFiles(value, `also.${market}`);
    const zone = readZone(files[0].timezone, `also.${market}.timezone`, "UTC");
    const layers = readLayers(files, `also.${market}`, zone, calendar, asOf);
    return [market, { layers, tick: () => tickOf(layers[layers.length - 1].series) }] as const;
  });
  return Object.fromEntries(read);
}

/** The resolutions of one market, the longest first. */
function readLayers(files: readonly Fields[], field: string, zone: string, calendar: Calendar, asOf: unknown): Layer[] {
  const layers = files.map((file, i): Layer => {
    const name = files.length > 1 ? `${field}[${i}]` : field;
    const { series, base } = readCut(file, name, readZone(file.timezone, `${name}.timezone`, zone), calendar, asOf);
    return { base, series };
  });
  const names = layers.map(({ base }) => formatTimeframe(base));
  const twice = names.find((name, i) => names.indexOf(name) < i);
  if (twice) throw new RequestFault(`"${field}" names two files of ${twice}.`);
  return layers.sort((a, b) => nominalLength(b.base) - nominalLength(a.base));
}

/** Bars of a timeframe, each from the finest file that covers it. */
function seriesFrom(layers: readonly Layer[], timeframe: Timeframe, calendar: Calendar): Series {
  const usable = layers.filter(({ base }) => divides(base, timeframe));
  if (usable.length === 0) return derive(layers[layers.length - 1].series, layers[0].base, timeframe, calendar);
  const [only] = usable;
  if (usable.length > 1) return deriveFromLayers(usable, timeframe, calendar);
  return formatTimeframe(only.base) === formatTimeframe(timeframe)
    ? only.series
    : derive(only.series, only.base, timeframe, calendar);
}

/**
 * Bars of a timeframe that the calendar has closed by the end of the last bar seen: a week that was told until Friday
 * is not there yet where all hours are open.
 */
export function closedSeries({ layers, calendar }: Input, timeframe: Timeframe): Series {
  const series = seriesFrom(layers, timeframe, calendar);
  const isOwn = layers.some(({ base }) => formatTimeframe(base) === formatTimeframe(timeframe));
  const ends = layers.map(({ base, series: { time, length } }) =>
    length > 0 ? closeOfBar(time[length - 1], base, calendar) : -Infinity,
  );
  const seen = Math.max(...ends);
  let { length } = series;
  if (isOwn && layers.length === 1) return series;
  while (length > 0 && closeOfBar(series.time[length - 1], timeframe, calendar) > seen) length--;
  return slice(series, 0, length);
}

function readZone(value: unknown, name: string, fallback: string): string {
  const zone = value ?? fallback;
  if (typeof zone !== "string" || !isZone(zone))
    throw new RequestFault(`"${name}" must be a zone of the IANA database.`);
  return zone;
}

/** Bars of a file as of a moment, and their timeframe. */
function readCut(
  bars: Fields,
  name: string,
  zone: string,
  calendar: Calendar,
  asOf: unknown,
): { series: Series; base: Timeframe } {
  const base = readTimeframeField(bars.timeframe ?? "P1D", `${name}.timeframe`);
  const whole = readBarFile(bars.file, zone, name);
  checkDistance(whole, base, name);
  return { series: asOf === undefined ? whole : slice(whole, 0, cutIndex(whole, base, calendar, asOf, zone)), base };
}

/** Bars that stand much closer than their timeframe are of another one: minutes that were taken for days. */
function checkDistance({ time, length }: Series, base: Timeframe, name: string): void {
  const least = 0.4 * nominalLength(base);
  for (let i = 1; i < length; i++)
    if (time[i] - time[i - 1] < least)
      throw new RequestFault(
        `"${name}": bars of ${formatTimeframe(base)} cannot stand ${(time[i] - time[i - 1]) / MINUTE} min ` +
          `apart; say their timeframe.`,
      );
}

/** Bars of another file that a quantity names, on the same timeframe and as of the same moment. */
export function readOther(value: unknown, { timeframe, calendar, asOf }: Input): Series {
  const fields = asFields(value, "with", FILE);
  const { series, base } = readCut(fields, "with", readZone(fields.timezone, "with.timezone", "UTC"), calendar, asOf);
  const own = formatTimeframe(base) === formatTimeframe(timeframe) ? series : derive(series, base, timeframe, calendar);
  return closedBy({ asOf, zone: "UTC", calendar }, own, timeframe);
}

/** Bars of a market named in `also`, on the request's timeframe and as of the same moment. */
export function alsoSeries(name: string, { also, timeframe, calendar, zone, asOf }: Input): Series {
  return closedBy({ asOf, zone, calendar }, seriesFrom(also[name].layers, timeframe, calendar), timeframe);
}

/** Bars of the request made into another timeframe, those alone that the calendar closes no later than its last bar. */
export function closedDerived({ series, timeframe: base, calendar }: Input, timeframe: Timeframe): Series {
  const made =
    formatTimeframe(base) === formatTimeframe(timeframe) ? series : derive(series, base, timeframe, calendar);
  const seen = series.length > 0 ? closeOfBar(series.time[series.length - 1], base, calendar) : -Infinity;
  let { length } = made;
  while (length > 0 && closeOfBar(made.time[length - 1], timeframe, calendar) > seen) length--;
  return slice(made, 0, length);
}

/** Bars of a timeframe that had closed by the moment asked for: the one that is being made is not among them. */
function closedBy(
  { asOf, zone, calendar }: Pick<Input, "asOf" | "zone" | "calendar">,
  series: Series,
  timeframe: Timeframe,
): Series {
  return asOf === undefined ? series : slice(series, 0, cutIndex(series, timeframe, calendar, asOf, zone));
}

export function derive(series: Series, base: Timeframe, timeframe: Timeframe, calendar: Calendar): Series {
  if (!divides(base, timeframe))
    throw new RequestFault(`Bars of ${formatTimeframe(base)} do not make bars of ${formatTimeframe(timeframe)}.`);
  return resample(series, base, timeframe, calendar);
}

function readCalendar(market: Fields, zone: string): Calendar {
  const spec: CalendarSpec = {
    zone: readZone(market.timezone, "market.timezone", zone),
    sessions:
      readList(
        market.sessions,
        "market.sessions",
        (one, name) => asFields(one, name, SESSION) as unknown as SessionRule,
      ) ?? ALL_HOURS.sessions,
    holidays: readList(market.holidays, "market.holidays", readDateText) ?? [],
    halfDays: Object.fromEntries(
      Object.entries(asFields(market.halfDays ?? {}, "market.halfDays")).map(([date, close]) => [
        readDateText(date, "market.halfDays"),
        close as string,
      ]),
    ),
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

function readList<T>(value: unknown, name: string, read: (one: unknown, name: string) => T): T[] | undefined {
  if (value === undefined) return undefined;
  if (!Array.isArray(value)) throw new RequestFault(`"${name}" must be a list.`);
  return value.map((one, i) => read(one, `${name}[${i}]`));
}

function readDateText(value: unknown, name: string): string {
  if (typeof value !== "string" || parseDate(value) === undefined)
    throw new RequestFault(`"${name}" must be a date such as 2015-06-30.`);
  return value;
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
  // The first rows may leave open what a later one decides; what all of them leave open nobody can know.
  const whole = format.time.ambiguous && rows.length > 1000 ? recognise(header, rows, zone) : format;
  if (typeof whole === "string") throw new RequestFault(`The file "${file}": ${whole}`);
  if (whole.time.ambiguous)
    throw new RequestFault(
      `The file "${file}": its dates can be read day first and month first; write them year first, as 2015-06-30.`,
    );
  if (whole.numbers.ambiguous && whole.numbers.thousands !== "")
    throw new RequestFault(
      `The file "${file}": numbers such as 38,250 can be read in two ways; write them with a point and no comma.`,
    );
  const { series, faults } = readBars(rows, whole, (i) => i + 2);
  if (faults.length > 0) throw new RequestFault(`The file "${file}", line ${faults[0].line}: ${faults[0].reason}`);
  return series;
}

/**
 * Number of bars that had closed by `asOf`: an instant or, for a date, its end in the bars' zone and by the market's
 * sessions.
 */
function cutIndex(series: Series, base: Timeframe, calendar: Calendar, asOf: unknown, zone: string): number {
  const time = readMoment(asOf, "asOf", zone);
  const day = typeof asOf === "string" ? parseDate(asOf) : undefined;
  const instant =
    day === undefined
      ? time
      : Math.max(
          instantOf((day + 1) * DAY, zone),
          isIntraday(base) ? -Infinity : closeOfBar(day * DAY, { count: 1, unit: "day" }, calendar),
        );
  const [layer] = knownAt([{ base, series }], instant, calendar);
  return layer.series.length;
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

/** An instant: like a moment, but a date alone is its midnight in `zone`. */
export function readInstant(value: unknown, name: string, zone: string): number {
  const day = typeof value === "string" ? parseDate(value) : undefined;
  return day === undefined ? readMoment(value, name, zone) : instantOf(day * DAY, zone);
}
