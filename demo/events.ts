import type { Impact, NamedEvent } from "#core/events/event";
import { NO_TIES, type Ties } from "#core/events/touches";
import { DAY, MINUTE, parseDate, utc, weekday } from "#core/time/dates";
import { AROUND_THE_CLOCK, EASTERN_FLOOR, EXCHANGE, METAL_FLOOR, SOUTHERN_HARBOUR } from "./calendars.ts";
import type { DemoMarket, Span } from "./market.ts";
import { releasesOf, type Release } from "./releases.ts";

const ISLES = "the Isles";
/** Currency of the Isles themselves. */
const HOME = "Verin";

/** What ties a market of the Isles to news: the currencies of its pair; region and, of a share, its trade. */
export function tiesOf({ name, kind, region }: DemoMarket): Ties {
  if (kind === "currency") return { ...NO_TIES, currencies: name.split(" / ") };
  if (kind === "share") return { currencies: [], region: ISLES, sector: SECTORS[region] ?? region };
  return { ...NO_TIES, region: ISLES };
}

const SECTORS: Record<string, string> = {
  "Mirren Bank": "banks",
  "Carrow Docks": "ports",
  "Ossel Mills": "food",
  "Tarn Light": "power",
  "Vane Turbines": "machines",
  "Hale Remedies": "medicine",
  "Orrery Works": "instruments",
  "Loam Fields": "land",
};

const IMPACTS: Record<string, Impact> = {
  "Work and wages": 3,
  "Prices paid by households": 2,
  "Decision on the base rate": 3,
};
/** The same days of a month are a company's own. */
const COMPANY_NEWS: Record<string, string> = {
  "Work and wages": "orders of the month",
  "Prices paid by households": "sales of the month",
  "Decision on the base rate": "figures of the quarter",
};

/**
 * What is published, said and closed in the Isles: the releases that move prices there, and what else a calendar holds.
 */
export function worldEvents(markets: readonly DemoMarket[], span: Span & { now: number }): NamedEvent[] {
  const [from, to] = [span.firstMinuteDay, span.lastDay + 60];
  return [...releases(markets, span, to), ...speeches(from, to), ...holidays(from, to), ...expiries(from, to)].sort(
    (a, b) => a.at - b.at,
  );
}

function releases(markets: readonly DemoMarket[], span: Span & { now: number }, to: number): NamedEvent[] {
  const regions = [...new Set(markets.map(({ region }) => region))];
  return regions.flatMap((region) => {
    const market = markets.find((one) => one.region === region);
    const company = market?.kind === "share" ? market : undefined;
    const about = company
      ? { ...NO_TIES, markets: [company.id] }
      : { ...NO_TIES, ...(region === ISLES ? { region, currencies: [HOME] } : { currencies: [region] }), markets: [] };
    const found = releasesOf(region, span.firstQuarterDay, to);
    return found.map(({ name, time }, i): NamedEvent => ({
      uid: `release ${region} ${name} ${time}`,
      kind: "release",
      title: company ? `${company.name}, ${COMPANY_NEWS[name]}` : `${name}, ${region}`,
      at: time,
      allDay: false,
      impact: company ? 2 : IMPACTS[name],
      ...about,
      ...figuresOf(found, i, span.now),
    }));
  });
}

/** Where each figure lies, what a usual surprise is, and how it is written. */
const FIGURES: Record<string, { about: number; surprise: number; text(value: number): string }> = {
  "Work and wages": { about: 42, surprise: 9, text: (value) => `${value.toFixed(0)} thousand` },
  "Prices paid by households": { about: 0.3, surprise: 0.15, text: (value) => `${value.toFixed(1)} %` },
  "Decision on the base rate": {
    about: 3.25,
    surprise: 0.1,
    text: (value) => `${(Math.round(value * 4) / 4).toFixed(2)} %`,
  },
};

/** What was expected, what came and what had come before; the surprise is as large as the price's answer to it. */
function figuresOf(
  releases: readonly Release[],
  i: number,
  now: number,
): Pick<NamedEvent, "forecast" | "previous" | "actual"> {
  const { name, time, size } = releases[i];
  const { about, surprise, text } = FIGURES[name];
  const before = releases.slice(0, i).findLast((one) => one.name === name);
  const previous = before ? { previous: text(about + surprise * before.size) } : {};
  const actual = time < now ? { actual: text(about + surprise * size) } : {};
  return { forecast: text(about), ...previous, ...actual };
}

/** The governor of the Isles Bank speaks every second Wednesday afternoon. */
function speeches(from: number, to: number): NamedEvent[] {
  return days(from, to)
    .filter((day) => weekday(day) === 3 && Math.floor(day / 7) % 2 === Math.floor(parseDate("2026-10-14")! / 7) % 2)
    .map((day): NamedEvent => ({
      uid: `speech ${day}`,
      kind: "speech",
      title: "The governor of the Isles Bank speaks",
      at: day * DAY + 14 * 60 * MINUTE + 30 * MINUTE,
      allDay: false,
      impact: 2,
      ...NO_TIES,
      currencies: [HOME],
      region: ISLES,
      markets: [],
    }));
}

function holidays(from: number, to: number): NamedEvent[] {
  const floors = [
    ["Currencies", AROUND_THE_CLOCK],
    ["Metals", METAL_FLOOR],
    ["Stock exchange", EXCHANGE],
    ["Energy", SOUTHERN_HARBOUR],
    ["Crops", EASTERN_FLOOR],
  ] as const;
  return floors.flatMap(([floor, calendar]) =>
    (calendar.holidays ?? []).flatMap((date): NamedEvent[] => {
      const day = parseDate(date) ?? 0;
      return day < from || day > to
        ? []
        : [
            {
              uid: `holiday ${floor} ${date}`,
              kind: "holiday",
              title: `${floor} closed`,
              at: day * DAY,
              allDay: true,
              impact: 2,
              ...NO_TIES,
              region: floor === "Currencies" ? "" : ISLES,
              currencies: floor === "Currencies" ? [HOME] : [],
              markets: [],
            },
          ];
    }),
  );
}

/** Contracts on the indices end on the third Friday of the month. */
function expiries(from: number, to: number): NamedEvent[] {
  return days(from, to)
    .filter((day) => weekday(day) === 5 && isThird(day))
    .map((day): NamedEvent => ({
      uid: `expiry ${day}`,
      kind: "expiry",
      title: "Contracts on the Isles indices end",
      at: day * DAY,
      allDay: true,
      impact: 1,
      ...NO_TIES,
      markets: ["isles-200", "isles-40", "isles-alarm"],
    }));
}

function isThird(day: number): boolean {
  const date = new Date(day * DAY);
  const first = utc(date.getUTCFullYear(), date.getUTCMonth() + 1, 1) / DAY;
  return Math.floor((day - first) / 7) === 2;
}

function days(from: number, to: number): number[] {
  return Array.from({ length: to - from + 1 }, (_, i) => from + i);
}
