import { placeOf, type Place } from "#core/alerts/alert";
import { bandsOfMark, type BandsAt } from "#core/alerts/place";
import { alertWatcher, keyOf } from "#core/alerts/watcher";
import type { Mark } from "#core/marks/kind";
import { followedOn } from "#core/marks/registry";
import { asInstant } from "#core/observe/instant";
import { calendarOf, factsOf } from "../bars/markets.ts";
import { seriesOf } from "../bars/series.ts";
import { AlertRow, FiringRow, type Market } from "../database/models.ts";
import { marksOf } from "../desk/marks.ts";
import type { Kind, Watched } from "./kind.ts";

/** Alerts: what they see is a firing. One whose mark is gone has nothing left to wait for. */
export const alerts: Kind = {
  async prepare(market, rows, transaction) {
    const ids = rows.map(({ subject }) => subject);
    const found = new Map((await AlertRow.findAll({ where: { id: ids }, transaction })).map((row) => [row.id, row]));
    const onMarks = [...found.values()].some(({ terms }) => placeOf(terms)?.mark !== undefined);
    const marks = onMarks ? await marksOf(market.id) : [];
    return Promise.all(
      rows.map(async (row): Promise<Watched | "gone"> => {
        const terms = found.get(row.subject)?.terms;
        const place = terms && placeOf(terms);
        const bandsAt = place ? await bandsOf(market, place, marks) : () => [];
        if (!terms || !bandsAt) return "gone";
        const watcher = alertWatcher(terms, bandsAt, asInstant(row.since));
        const watched: Watched<typeof watcher.start, Parameters<typeof keyOf>[0]> = {
          row,
          watcher,
          async keep(events) {
            const firings = events.map((detail) => ({
              alertId: row.subject,
              event: keyOf(detail),
              firedAt: detail.knownAt,
              detail,
              says: null,
              seen: false,
            }));
            await FiringRow.bulkCreate(firings, { transaction });
            return firings.length;
          },
        };
        return watched as Watched;
      }),
    );
  },
};

async function bandsOf(
  market: Market,
  { mark: id, bottom, top, name }: Place,
  marks: readonly Mark[],
): Promise<BandsAt | undefined> {
  if (id === undefined) return () => [{ bottom, top, name }];
  const mark = marks.find((one) => one.id === id);
  if (!mark) return undefined;
  const series = await seriesOf(market, followedOn(mark));
  return bandsOfMark(mark, { series, market: factsOf(market), calendar: calendarOf(market) });
}
