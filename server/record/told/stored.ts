import { QueryTypes } from "sequelize";
import { closedBars } from "#core/observe/closedBars";
import { Spans as BarSpans } from "#core/observe/closedBar";
import { asInstant } from "#core/observe/instant";
import { Calendar } from "#core/time/calendar";
import { readTimeframe } from "../../bars/timeframes.ts";
import { freshLayers } from "../../bars/layers.ts";
import { calendarOf, legsOf } from "../../bars/markets.ts";
import { sha256 } from "../../canonical.ts";
import { theDatabase } from "../../database/connection.ts";
import { Market, RecordEntry, ToldPageRow } from "../../database/models.ts";
import { readPart } from "../entry.ts";
import type { Restated } from "../parts.ts";
import { readPages, readRows } from "./book.ts";
import type { ToldPage } from "./page.ts";
import type { Spans } from "./restatedRows.ts";
import type { ToldSource } from "./verifyCalls.ts";

/** What calls were told as the database has it, read as it is now and not as this process remembers it. */
export async function storedTold(): Promise<ToldSource> {
  const broken = new Set(await brokenBars());
  const restated = await restatedEntered();
  return {
    async markets() {
      const rows = await ToldPageRow.findAll({ attributes: ["marketId"], group: ["marketId"], raw: true });
      return rows.map(({ marketId }) => marketId);
    },
    pages: (market) => readPages(market),
    rows: (page) => readRows(page),
    isWhole: ({ bytes }: ToldPage) => !broken.has(bytes),
    async restated(id) {
      const market = await Market.findByPk(id);
      return market ? restatedSpans(market, restated) : [];
    },
    async storedKey(id) {
      const market = await Market.findByPk(id);
      const ids = market ? (await withLegs(market)).map((one) => one.id) : [];
      const rows = await theDatabase().query<{ sha256: string }>(
        `SELECT SHA2(CONCAT(marketId, base, startTime, SHA2(data, 256)), 256) AS sha256 FROM bar_chunks
         WHERE shelf = 'live' AND marketId IN (:ids) ORDER BY marketId, base, startTime`,
        { type: QueryTypes.SELECT, replacements: { ids: [...ids, ""] } },
      );
      return sha256(rows.map((row) => row.sha256).join());
    },
    async stored(id, { from, calendar }) {
      const market = await Market.findByPk(id);
      if (!market) return undefined;
      return closedBars(await freshLayers(market), new Calendar(calendar), asInstant(from ?? -Infinity));
    },
  };
}

type Change = Pick<Restated, "market" | "base" | "from" | "to">;

/** Every change of told bars that was entered in the record. */
export async function restatedEntered(): Promise<Change[]> {
  const rows = await RecordEntry.findAll({ where: { kind: "restated" }, attributes: ["part"], raw: true });
  return rows.flatMap(({ part }) => (part === null ? [] : ((readPart(part)?.content as Change | undefined) ?? [])));
}

/** When bars of a market, or of one that it is made of, were changed. */
export async function restatedSpans(market: Market, changes: readonly Change[]): Promise<Spans> {
  const all = await withLegs(market);
  return changes.flatMap(({ market: of, base, from, to }) => {
    const one = all.find((leg) => leg.id === of);
    if (!one) return [];
    const spans = new BarSpans(readTimeframe(base), calendarOf(one));
    return [{ from: spans.of(from).from, to: spans.of(to).to }];
  });
}

/** A market and all that it is made of. */
async function withLegs(market: Market): Promise<Market[]> {
  const legs = await legsOf(market);
  return [market, ...(await Promise.all(legs.map(withLegs))).flat()];
}

/** Digests of told bars that are gone or are others by now, found where they lie. */
async function brokenBars(): Promise<string[]> {
  const rows = await theDatabase().query<{ bytes: string }>(
    `SELECT DISTINCT told_pages.bytes AS bytes FROM told_pages
     LEFT JOIN told_bars ON told_bars.sha256 = told_pages.bytes
     WHERE told_bars.sha256 IS NULL OR SHA2(told_bars.bytes, 256) <> told_pages.bytes`,
    { type: QueryTypes.SELECT },
  );
  return rows.map(({ bytes }) => bytes);
}
