import type { CalendarSpec } from "#core/time/calendar";
import { dayOf, type DemoMarket, type Span } from "./market.ts";

/** The Meridian Isles: an invented federation. Its clocks are those of a real zone, so that they change as clocks do. */
const ZONE = "Europe/Lisbon";
const HOLIDAYS = ["2026-01-01", "2026-04-03", "2026-06-12", "2026-10-05", "2026-12-25"];

const AROUND_THE_CLOCK: CalendarSpec = {
  zone: ZONE,
  sessions: [
    { days: [1, 2, 3, 4, 5], open: "22:00", close: "08:00", opensDayBefore: true, kind: "overnight" },
    { days: [1, 2, 3, 4, 5], open: "08:00", close: "22:00", kind: "regular" },
  ],
  holidays: ["2026-01-01", "2026-12-25"],
};

const METAL_FLOOR: CalendarSpec = {
  zone: ZONE,
  sessions: [{ days: [1, 2, 3, 4, 5], open: "08:00", close: "18:30", kind: "regular" }],
  holidays: HOLIDAYS,
  halfDays: { "2026-12-24": "13:00", "2026-12-31": "13:00" },
};

export const MARKETS: readonly DemoMarket[] = [
  {
    id: "sable-tin",
    name: "Sable tin",
    kind: "commodity",
    tick: 0.05,
    pip: 1,
    pipName: "pt",
    decimals: 2,
    calendar: METAL_FLOOR,
    from: 148,
    to: 462,
    swing: 0.011,
  },
  {
    id: "verin-olta",
    name: "Verin / Olta",
    kind: "currency",
    tick: 0.0001,
    pip: 0.01,
    pipName: "pip",
    decimals: 4,
    calendar: AROUND_THE_CLOCK,
    from: 81.4,
    to: 57.2,
    swing: 0.004,
  },
];

/** Eight years of days, five weeks of minutes behind the present and five ahead of it for the feed to play. */
export const SPAN: Span = {
  firstDay: dayOf("2018-10-15"),
  firstMinuteDay: dayOf("2026-09-07"),
  lastDay: dayOf("2026-11-18"),
  now: Date.parse("2026-10-14T12:42:00Z"),
};
