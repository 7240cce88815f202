import { placeOf, rungOf, type AlertTerms, type Place } from "#core/alerts/alert";
import type { AlertMaterial, ClosedBars } from "#core/alerts/evaluate";
import { bandsOfMark, type BandsAt } from "#core/alerts/place";
import { FINDING_DEFAULTS, readFrom } from "#core/finding/params";
import { closeOfBar } from "#core/series/resample";
import { followedOn } from "#core/marks/registry";
import { slice } from "#core/series/series";
import { finestOf } from "../bars/finest.ts";
import { calendarOf, factsOf } from "../bars/markets.ts";
import { seriesOf } from "../bars/series.ts";
import { readTimeframe } from "../bars/timeframes.ts";
import type { Market } from "../database/models.ts";
import { marksOf } from "../desk/marks.ts";

/** Instant up to which a market's finest bars tell what happened; none when it has no bars. */
export async function toldUntilOf(market: Market): Promise<number | undefined> {
  const fine = await finestOf(market);
  return fine && fine.closeOf(fine.series.time[fine.series.length - 1]);
}

/** What an alert is judged by; `undefined` when its mark is gone or there are no bars. */
export async function materialOf(market: Market, terms: AlertTerms): Promise<AlertMaterial | undefined> {
  const fine = await finestOf(market);
  const place = placeOf(terms);
  const bandsAt = place ? await bandsOf(market, place) : () => [];
  if (!fine || !bandsAt) return undefined;
  const rung = rungOf(terms);
  return {
    fine,
    rung: rung === undefined ? undefined : await barsOfRung(market, rung),
    bandsAt,
    market: factsOf(market),
    k: FINDING_DEFAULTS.k,
  };
}

async function barsOfRung(market: Market, rung: string): Promise<ClosedBars> {
  const series = await seriesOf(market, rung);
  const timeframe = readTimeframe(rung);
  const calendar = calendarOf(market);
  return {
    series: slice(series, readFrom(series.length, FINDING_DEFAULTS.lookBack), series.length),
    closeOf: (time) => closeOfBar(time, timeframe, calendar),
  };
}

async function bandsOf(market: Market, { mark: id, bottom, top, name }: Place): Promise<BandsAt | undefined> {
  if (id === undefined) return () => [{ bottom, top, name }];
  const mark = (await marksOf(market.id)).find((one) => one.id === id);
  return (
    mark &&
    bandsOfMark(mark, {
      series: await seriesOf(market, followedOn(mark)),
      market: factsOf(market),
      calendar: calendarOf(market),
    })
  );
}
