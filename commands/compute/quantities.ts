import { advanceBand, FRESH, type Band, type BandEvent } from "#core/levels/band";
import { periodExtremes } from "#core/levels/periodExtremes";
import { DEGREES } from "#core/waves/degrees";
import { retracement, RETRACEMENT_RATIOS } from "#core/projections/retracement";
import { barAt, COLUMNS, firstAtOrAfter, type Series } from "#core/series/series";
import { swings } from "#core/structure/swings";
import type { Timeframe } from "#core/time/timeframe";
import { gaps } from "#core/zones/gaps";
import { readImpulse } from "#core/waves/impulse";
import type { LengthScale } from "#core/waves/wave";
import { RequestFault } from "./fault.ts";
import { candles } from "./candles.ts";
import { columns } from "./columns.ts";
import { context } from "./context.ts";
import { found } from "./found.ts";
import { studies } from "./studies.ts";
import { measured } from "./measured.ts";
import { number, oneOf, ratios, raw, readPoint, whole } from "./parameters.ts";
import { patterns } from "./patterns.ts";
import { record } from "./record.ts";
import { history, scenario } from "./scenario.ts";
import { timeText, type Params, type Quantity } from "./quantity.ts";
import { waves } from "./waves.ts";
import { worth } from "./worth.ts";
import { derive, readMoment, readPeriod, readTimeframeField } from "./request.ts";

function barRows(series: Series, timeframe: Timeframe): Params[] {
  return Array.from({ length: series.length }, (_, i) => {
    const bar = barAt(series, i);
    return { ...bar, time: timeText(bar.time, timeframe) };
  });
}

export const quantities: readonly Quantity[] = [
  ...studies,
  ...measured,
  ...candles,
  ...columns,
  ...patterns,
  ...context,
  record,
  ...found,
  ...waves,
  ...worth,
  scenario,
  history,
  {
    name: "resample",
    says: "bars of a longer timeframe, by the market's sessions",
    parameters: [raw("timeframe", "ISO 8601 duration")],
    fields: [...COLUMNS],
    values({ timeframe }, { series, timeframe: base, calendar }) {
      const target = readTimeframeField(timeframe, "timeframe");
      return barRows(derive(series, base, target, calendar), target);
    },
  },
  {
    name: "swings",
    says: "symmetric swings, strictly beyond the k bars on each side",
    parameters: [whole("k", 3)],
    fields: ["time", "side", "price", "knownAt"],
    values: ({ k }, { series, timeframe }) =>
      swings(series, k as number, "none").map(({ time, side, price, knownAt }) => ({
        time: timeText(time, timeframe),
        side,
        price,
        knownAt: timeText(series.time[knownAt], timeframe),
      })),
  },
  {
    name: "gaps",
    says: "fair value gaps, and what later wicks did to them",
    parameters: [],
    fields: ["time", "direction", "bottom", "top", "state", "filledShare", "firstTouch", "filledAt"],
    values: (_params, { series, timeframe }) =>
      gaps(series).map(({ at, firstTouch, filledAt, ...gap }) => ({
        time: timeText(series.time[at], timeframe),
        ...gap,
        ...(firstTouch === undefined ? {} : { firstTouch: timeText(series.time[firstTouch], timeframe) }),
        ...(filledAt === undefined ? {} : { filledAt: timeText(series.time[filledAt], timeframe) }),
      })),
  },
  {
    name: "periodExtremes",
    says: "highs and lows of periods, and what later bars did to them",
    parameters: [raw("period", "ISO 8601 duration of a day or longer")],
    fields: ["time", "high", "highTime", "low", "lowTime", "insidePrevious", "highState", "lowState"],
    values({ period }, { series, timeframe, calendar }) {
      const target = readPeriod(period, "period", timeframe);
      return periodExtremes(series, timeframe, target, calendar).map((row) => ({
        ...row,
        time: timeText(row.time, target),
        highTime: timeText(row.highTime, timeframe),
        lowTime: timeText(row.lowTime, timeframe),
      }));
    },
  },
  {
    name: "retracement",
    says: "prices at shares of a leg, counted back from its end",
    parameters: [raw("from", "{ time, price }"), raw("to", "{ time, price }"), ratios("ratios", RETRACEMENT_RATIOS)],
    fields: ["ratio", "price"],
    withoutBars: true,
    values({ from, to, ratios: asked }, { zone }) {
      return retracement(readPoint(from, "from", zone), readPoint(to, "to", zone), asked as number[]);
    },
  },
  {
    name: "impulse",
    says: "rules, price that ends it, and projections of an impulse labelled 0 to 5",
    parameters: [
      raw("pivots", "list of 1 to 6 { time, price }"),
      oneOf("degree", DEGREES, "Intermediate"),
      oneOf("scale", ["arithmetic", "log"], "arithmetic"),
    ],
    fields: ["rules", "killPrice", "killSide", "killRule", "projections", "statements"],
    withoutBars: true,
    values({ pivots, scale }, { zone }) {
      if (!Array.isArray(pivots) || pivots.length < 1 || pivots.length > 6)
        throw new RequestFault(`"pivots" must be a list of 1 to 6 { time, price }.`);
      const read = pivots.map((pivot, i) => readPoint(pivot, `pivots[${i}]`, zone));
      if (scale === "log" && read.some(({ price }) => price <= 0))
        throw new RequestFault("On the log scale every price must be above zero.");
      const { rules, statements, projections } = readImpulse(read, scale as LengthScale);
      const [kill] = statements;
      const end = kill && { killPrice: kill.killPrice, killSide: kill.killSide, killRule: kill.killRule };
      return [
        { rules: rules.map(({ rule, holds, numbers }) => ({ rule, holds, numbers })), ...end, projections, statements },
      ];
    },
  },
  {
    name: "zone",
    says: "the life of a zone over the bars after its time",
    parameters: [oneOf("side", ["demand", "supply"]), number("bottom"), number("top"), raw("time", "ISO 8601 time")],
    fields: ["time", "event", "touches", "deepest"],
    values({ side, bottom, top, time }, { series, timeframe, zone }) {
      const band = { side, bottom, top, leave: Number(top) - Number(bottom) } as Band;
      if (band.leave <= 0) throw new RequestFault(`"top" must be above "bottom".`);
      const events: BandEvent[] = [];
      let state = FRESH;
      for (let i = firstAtOrAfter(series, readMoment(time, "time", zone)); i < series.length; i++)
        state = advanceBand(band, state, barAt(series, i), (event) => events.push(event));
      return events.map((event) => ({ ...event, time: timeText(event.time, timeframe) }));
    },
  },
];
