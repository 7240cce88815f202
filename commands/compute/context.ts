import { breadthOf } from "#core/context/breadth";
import { ranksOf } from "#core/context/ranks";
import { seasonality } from "#core/context/seasonality";
import { returnsBy, SEASONS, SEASON_NAMES, type SeasonName } from "#core/context/seasons";
import type { Series } from "#core/series/series";
import { parseTimeframe, type Timeframe } from "#core/time/timeframe";
import { RequestFault } from "./fault.ts";
import { oneOf, raw, whole, type Parameter } from "./parameters.ts";
import { timeText, type Params, type Quantity } from "./quantity.ts";
import { alsoSeries, closedDerived, type Input } from "./request.ts";

const MEMBERS = raw("members", "list of names in also; all of them if left out", []);

/** A list of whole numbers from 1. */
const WINDOWS: Parameter = {
  ...{ name: "windows", type: "list of whole numbers from 1", fallback: [1, 5, 20, 60] },
  read(value, name) {
    const isWindow = (one: unknown) => typeof one === "number" && Number.isInteger(one) && one >= 1 && one <= 1e7;
    if (!Array.isArray(value) || value.length === 0 || !value.every(isWindow))
      throw new RequestFault(`"${name}" must be a list of whole numbers from 1.`);
    return value;
  },
};

/** The markets a quantity is asked of, by their names in `also`. */
function membersOf(asked: unknown, input: Input): { name: string; series: Series }[] {
  const known = Object.keys(input.also);
  if (known.length === 0) throw new RequestFault('"also" must name the members.');
  if (!Array.isArray(asked)) throw new RequestFault('"members" must be a list of names.');
  const names = asked.length === 0 ? known : asked;
  return names.map((name, i) => {
    if (typeof name !== "string" || !known.includes(name))
      throw new RequestFault(`"members[${i}]" must be one of ${known.join(", ")}.`);
    return { name, series: alsoSeries(name, input) };
  });
}

/** What the rest of the market, and the calendar, say. */
export const context: readonly Quantity[] = [
  {
    name: "seasonality",
    says: "returns by month, week, day or hour, with the chance of a mean as far off were keys dealt out at random",
    parameters: [oneOf("by", SEASON_NAMES, "month")],
    fields: ["key", "n", "mean", "median", "rises", "deviation", "error", "p", "adjusted"],
    values({ by }, input) {
      const name = by as SeasonName;
      const series = closedDerived(input, parseTimeframe(SEASONS[name].bars) as Timeframe);
      return seasonality(returnsBy(series, name, input.calendar.spec.zone)).map((season) => ({ ...season }));
    },
  },
  {
    name: "ranks",
    says: "members by their returns over windows of common bars, and how their ranks moved",
    parameters: [MEMBERS, WINDOWS, whole("ago", 5)],
    fields: ["time", "name", "window", "return", "excess", "rank", "change"],
    values({ members, windows, ago }, input) {
      const asked = { windows: windows as number[], ago: ago as number };
      const ranks = ranksOf(input.series, membersOf(members, input), asked);
      return (ranks?.rows ?? []).map((row) => ({ time: timeText(ranks!.time, input.timeframe), ...row }));
    },
  },
  {
    name: "breadth",
    says: "how many members advance, stand above their own average, and make new highs or lows",
    parameters: [MEMBERS, whole("period", 50), whole("extremes", 20)],
    fields: ["time", "n", "advancing", "declining", "above", "newHighs", "newLows", "net"],
    values({ members, period, extremes }, input) {
      const of = membersOf(members, input).map(({ series }) => series);
      const asked = { period: period as number, extremes: extremes as number };
      return breadthOf(input.series, of, asked).map(({ time, ...row }): Params => ({
        time: timeText(time, input.timeframe),
        ...row,
      }));
    },
  },
];
