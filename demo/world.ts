import type { Form } from "#core/series/formula";
import { AROUND_THE_CLOCK, EASTERN_FLOOR, EXCHANGE, METAL_FLOOR, SOUTHERN_HARBOUR } from "./calendars.ts";
import { dayOf, type DemoMarket, type Span } from "./market.ts";

/** The Meridian Isles: an invented federation. Its clocks are those of real zones, so that they change as clocks do. */

interface Terms {
  tick: number;
  pip: number;
  pipName: string;
  decimals: number;
}

const slug = (name: string) => name.toLowerCase().replace(/[^a-z0-9]+/g, "-");
const digits = (tick: number) => Math.max(0, Math.ceil(-Math.log10(tick) - 1e-9));
const points = (tick: number, decimals = digits(tick)): Terms => ({ tick, pip: 1, pipName: "pt", decimals });
const pips = (pip: number): Terms => ({ tick: pip / 10, pip, pipName: "pip", decimals: digits(pip / 10) });

/** A currency goes up and down between its prices and gets nowhere in the long run. */
function currency(name: string, region: string, pip: number, [from, ...rest]: readonly number[]): DemoMarket {
  const route = { from, via: rest.slice(0, -1), to: rest[rest.length - 1], swing: 0.005 };
  return { id: slug(name), name, kind: "currency", ...pips(pip), calendar: AROUND_THE_CLOCK, region, route };
}

function commodity(
  name: string,
  terms: Terms,
  calendar: DemoMarket["calendar"],
  from: number,
  to: number,
  swing: number,
): DemoMarket {
  return {
    id: slug(name),
    name,
    kind: "commodity",
    ...terms,
    calendar,
    region: "the Isles",
    route: { from, to, swing },
  };
}

function index(name: string, terms: Terms, from: number, to: number, swing: number): DemoMarket {
  return {
    id: slug(name),
    name,
    kind: "index",
    ...terms,
    calendar: EXCHANGE,
    region: "the Isles",
    route: { from, to, swing },
  };
}

/** A market that goes with another: the same goods later, a sibling, the fear of its falls. */
function withLeader(market: DemoMarket, by: string, beta: number, memory?: number): DemoMarket {
  return {
    ...market,
    route: { ...market.route, straight: true },
    led: { by, beta, ...(memory === undefined ? {} : { memory }) },
  };
}

/** A share of one sector goes its own way and with the index, more or less. */
function share(name: string, from: number, to: number, beta: number): DemoMarket {
  return {
    id: slug(name),
    name,
    kind: "share",
    ...points(0.01),
    calendar: EXCHANGE,
    region: name,
    route: { from, to, swing: 0.011 },
    led: { by: "isles-200", beta },
  };
}

/** Markets with bars of their own. The first is the one the demo's analyst has written about. */
export const MARKETS: readonly DemoMarket[] = [
  commodity("Sable tin", points(0.05), METAL_FLOOR, 148, 462, 0.011),
  withLeader(commodity("Sable tin, March", points(0.05), METAL_FLOOR, 150, 469, 0.0008), "sable-tin", 1),
  commodity("Skerry silver", points(0.005), METAL_FLOOR, 9.2, 31.4, 0.013),
  commodity("Harbour oil", points(0.01), SOUTHERN_HARBOUR, 38, 84, 0.015),
  commodity("Lantern gas", points(0.001), SOUTHERN_HARBOUR, 5.6, 3.1, 0.02),
  commodity("Grey wheat", points(0.25, 2), EASTERN_FLOOR, 310, 655, 0.012),
  commodity("Ember cocoa", points(1, 0), EASTERN_FLOOR, 1480, 4120, 0.014),
  currency("Verin / Olta", "Olta", 0.01, [81.4, 96.2, 70.3, 88.9, 61.4, 74.8, 45.6, 58.9]),
  currency("Verin / Corran", "Corran", 0.0001, [1.18, 1.57, 1.21, 1.49, 1.06, 1.36, 1.08, 1.42]),
  currency("Verin / Tessel", "Tessel", 0.001, [9.6, 7.1, 10.4, 8.2, 11.3, 7.6, 10.2, 7.9]),
  currency("Quine / Verin", "Quine", 0.0001, [0.72, 0.99, 0.78, 1.04, 0.81, 0.97, 0.71, 0.91]),
  currency("Brume / Verin", "Brume", 0.0001, [1.55, 1.93, 1.44, 1.71, 1.29, 1.58, 1.21]),
  currency("Verin / Sarn", "Sarn", 0.01, [112, 137, 96, 121, 84, 128, 108, 148]),
  index("Isles 200", points(0.5, 1), 3200, 11850, 0.009),
  withLeader(index("Isles 40", points(0.1), 812, 3010, 0.0015), "isles-200", 1.06),
  withLeader(index("Isles alarm", points(0.01), 18, 17, 0.03), "isles-200", -7, 15),
  share("Mirren Bank", 22, 41, 1.2),
  share("Carrow Docks", 9, 36, 0.8),
  share("Ossel Mills", 31, 74, 0.6),
  share("Tarn Light", 14, 19, 0.4),
  share("Vane Turbines", 6, 58, 1.1),
  share("Hale Remedies", 40, 122, 0.5),
  share("Orrery Works", 12, 210, 1.4),
  share("Loam Fields", 18, 27, 0.7),
];

export interface DerivedDemoMarket extends Terms {
  name: string;
  form: Form;
  legs: { market: string; units: number }[];
  scale: number;
}

/** Markets made of the others. */
export const DERIVED: readonly DerivedDemoMarket[] = [
  {
    name: "Quine / Olta",
    form: "product",
    legs: [
      { market: "quine-verin", units: 1 },
      { market: "verin-olta", units: 1 },
    ],
    scale: 1,
    ...pips(0.01),
  },
  {
    name: "Tessel / Corran",
    form: "quotient",
    legs: [
      { market: "verin-corran", units: 1 },
      { market: "verin-tessel", units: -1 },
    ],
    scale: 1,
    ...pips(0.0001),
  },
  {
    name: "Tin, March less spot",
    form: "spread",
    legs: [
      { market: "sable-tin-march", units: 1 },
      { market: "sable-tin", units: -1 },
    ],
    scale: 1,
    ...points(0.05),
  },
];

/**
 * Twenty-two years of days, one of quarters of an hour, a month of minutes behind the present and one ahead of it for
 * the feed to play.
 */
export const SPAN: Span = {
  firstDay: dayOf("2004-10-04"),
  firstQuarterDay: dayOf("2025-10-06"),
  firstMinuteDay: dayOf("2026-09-14"),
  lastDay: dayOf("2026-11-13"),
  firstSaid: Date.parse("2026-09-28T06:00:00Z"),
  now: Date.parse("2026-10-14T12:42:00Z"),
};

/** Markets of which nothing is said yet: where somebody new to the desk begins. */
export const BLANK: readonly string[] = ["verin-olta", "isles-40", "isles-200"];
