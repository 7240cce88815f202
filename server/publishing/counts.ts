import { type CountState, isDead, nameAt, readingOf } from "#core/marks/count";
import type { CountProps, CountRole } from "#core/marks/countProps";
import type { Mark, MarketFacts } from "#core/marks/kind";
import { followedOn } from "#core/marks/registry";
import { closeOfBar } from "#core/series/resample";
import { calendarOf, factsOf, listMarkets } from "../bars/markets.ts";
import { seriesOf } from "../bars/series.ts";
import { readTimeframe } from "../bars/timeframes.ts";
import { MarkRow, ScenarioRow } from "../database/models.ts";
import { findEdition, listEditions } from "./editions.ts";
import { livesOf } from "../desk/lives.ts";
import { marksOf } from "../desk/marks.ts";
import { sayEvent } from "#core/marks/sayEvent";

/** One live statement of a count, and how far price is from ending it. */
export interface StatementLine {
  says: string;
  rule: string;
  price: number;
  side: "below" | "above";
  /** Kill price less the last price, in price units. */
  distance: number;
  /** How deep inside the count it is said; 0 is the count itself. */
  depth: number;
}

export interface CountLine {
  id: string;
  rung: string;
  role: CountRole;
  weight: number;
  says: string;
  dead: boolean;
  statements: StatementLine[];
  /** What happened to it since the last edition was published. */
  changes: { time: number; sentence: string }[];
  /** Titles of scenarios that rest on it. */
  scenarios: string[];
}

export interface MarketCounts {
  market: MarketFacts;
  price: number;
  counts: CountLine[];
}

/**
 * The counts of every market that are not archived, those nearest to their end first, and since when changes are told.
 */
export async function liveCounts(): Promise<{ since: number | undefined; markets: MarketCounts[] }> {
  const last = (await listEditions()).at(0);
  const since = last && Date.parse((await findEdition(String(last.number))).content.marketTime);
  const counted = new Set(
    (
      await MarkRow.findAll({
        attributes: ["marketId"],
        where: { kind: "count", removed: false },
        group: ["marketId"],
        raw: true,
      })
    ).map(({ marketId }) => marketId),
  );
  const markets: MarketCounts[] = [];
  for (const row of await listMarkets()) {
    if (!counted.has(row.id)) continue;
    const [market, calendar] = [factsOf(row), calendarOf(row)];
    const days = await seriesOf(row, "P1D");
    const price = days.length > 0 ? days.close[days.length - 1] : NaN;
    const scenarios = await ScenarioRow.findAll({ where: { marketId: row.id, removed: false } });
    const marks = (await marksOf(row.id)).filter(
      ({ kind, props, hidden }) => kind === "count" && !hidden && props.role !== "archived",
    );
    const counts = (await livesOf(marks, (rung) => seriesOf(row, rung), market, calendar)).map(
      ({ mark, life, says }): CountLine => {
        const own = mark as unknown as Mark<CountProps>;
        const state = life.state as CountState;
        const known = (time: number) => closeOfBar(time, readTimeframe(followedOn(mark)), calendar);
        return {
          id: mark.id,
          rung: mark.rung,
          role: own.props.role,
          weight: own.props.weight,
          says,
          dead: life.dead,
          statements: readingOf(own)
            .asserted.filter((statement) => !isDead(state, statement))
            .map((statement) => ({
              says: `${statement.statement}${nameAt(own, statement.at)}`,
              rule: statement.killRule,
              price: statement.killPrice,
              side: statement.killSide,
              distance: statement.killPrice - price,
              depth: statement.at.length,
            })),
          changes: life.events
            .filter(({ time }) => since === undefined || known(time) > since)
            .map((event) => ({ time: known(event.time), sentence: sayEvent(mark, event) })),
          scenarios: scenarios
            .filter(({ scenario }) => scenario.restsOn === mark.id)
            .map(({ scenario }) => scenario.title),
        };
      },
    );
    if (counts.length > 0)
      markets.push({
        market,
        price,
        counts: counts.sort((a, b) => Number(a.dead) - Number(b.dead) || nearest(a) / price - nearest(b) / price),
      });
  }
  return {
    since,
    markets: markets.sort(
      (a, b) =>
        Math.min(...a.counts.map((one) => nearest(one) / a.price)) -
        Math.min(...b.counts.map((one) => nearest(one) / b.price)),
    ),
  };
}

function nearest({ statements, dead }: CountLine): number {
  return dead ? Infinity : Math.min(Infinity, ...statements.map(({ distance }) => Math.abs(distance)));
}
