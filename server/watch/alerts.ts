import { placeOf, type AlertEvent, type Place } from "#core/alerts/alert";
import { bandsOfMark, type BandsAt } from "#core/alerts/place";
import { alertWatcher, keyOf, scenarioAlert } from "#core/alerts/watcher";
import { ConditionFault } from "#core/conditions/fields";
import type { WholeState } from "#core/scenarios/legs";
import { termsOfContract } from "#core/written/read";
import type { Mark } from "#core/marks/kind";
import { followedOn } from "#core/marks/registry";
import { asInstant } from "#core/observe/instant";
import { calendarOf, factsOf } from "../bars/markets.ts";
import { seriesOf } from "../bars/series.ts";
import type { Transaction } from "sequelize";
import { AlertRow, FiringRow, type Market, type WatcherRow } from "../database/models.ts";
import { isSealed } from "../database/sealing.ts";
import { announce } from "../outbox/outbox.ts";
import { marksOf } from "../desk/marks.ts";
import type { Kind, Watched } from "./kind.ts";
import { factsOfWatch } from "./scenarios.ts";

/** Alerts: what they see is a firing. One whose mark is gone has nothing left to wait for. */
export const alerts: Kind = {
  async prepare(market, rows, transaction) {
    const ids = rows.map(({ subject }) => subject);
    const found = new Map((await AlertRow.findAll({ where: { id: ids }, transaction })).map((row) => [row.id, row]));
    const onMarks = [...found.values()].some(({ terms }) => placeOf(terms)?.mark !== undefined);
    const marks = onMarks ? await marksOf(market.id) : [];
    return Promise.all(
      rows.map(async (row): Promise<Watched | "gone" | "unknown"> => {
        const alert = found.get(row.subject);
        if (alert && !isSealed(alert)) return "unknown";
        const terms = alert?.terms;
        if (terms?.on === "scenario") return onScenario(row, terms.terms, market, transaction);
        const place = terms && placeOf(terms);
        const bandsAt = place ? await bandsOf(market, place, marks) : () => [];
        if (!terms || !bandsAt) return "gone";
        const watcher = alertWatcher(terms, bandsAt, asInstant(row.since));
        const watched: Watched<typeof watcher.start, AlertEvent> = {
          row,
          watcher,
          keep: (events) => keep(row, events, transaction),
        };
        return watched as Watched;
      }),
    );
  },
};

async function keep(row: WatcherRow, events: readonly AlertEvent[], transaction: Transaction): Promise<number> {
  const firings = events.map((detail) => ({
    alertId: row.subject,
    event: keyOf(detail),
    firedAt: detail.knownAt,
    detail,
    says: null,
    seen: false,
  }));
  await FiringRow.bulkCreate(firings, { transaction });
  // Readers are told by their ways; those at the desk see it on every page.
  await announce(
    firings.map(({ alertId, event, firedAt }) => ({
      ...{ kind: "alerts" as const, name: `alert ${alertId} ${firedAt}`, what: { alert: alertId, event } },
    })),
    transaction,
  );
  return firings.length;
}

/** The steps of a scenario as the alert was set on it; one that cannot be read any more has nothing to wait for. */
function onScenario(row: WatcherRow, raw: object, market: Market, transaction: Transaction): Watched | "gone" {
  try {
    const watcher = scenarioAlert(termsOfContract(raw), factsOfWatch(market, row.since));
    const watched: Watched<WholeState, AlertEvent> = {
      row,
      watcher,
      keep: (events) => keep(row, events, transaction),
    };
    return watched as Watched;
  } catch (error) {
    if (error instanceof ConditionFault) return "gone";
    throw error;
  }
}

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
