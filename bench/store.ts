import { randomUUID } from "node:crypto";
import { createReadStream, readFileSync, writeFileSync } from "node:fs";
import { Readable } from "node:stream";
import type { ReadableStream } from "node:stream/web";
import Papa from "papaparse";
import type { Series } from "#core/series/series";
import { MINUTE } from "#core/time/dates";
import { createAccount } from "../server/accounts/accounts.ts";
import { appendBars, readBars } from "../server/bars/chunks.ts";
import { importUpload } from "../server/intake/import.ts";
import { importSent, SENT } from "../server/intake/sent.ts";
import { seriesOf } from "../server/bars/series.ts";
import { takeUpload } from "../server/bars/uploads.ts";
import { transact } from "../server/database/connection.ts";
import { BarChunk, BarImport, Market } from "../server/database/models.ts";
import { millionBars } from "./core.ts";
import { withDesk } from "./desk.ts";
import { compare, ratioLine } from "./side.ts";

const FOLDER = "var/bench";
const FILE = `${FOLDER}/million.csv`;
const GRID = { kind: "other", decimals: 0 } as const;
const CALENDAR = { zone: "UTC", sessions: [{ days: [1, 2, 3, 4, 5, 6, 7], open: "00:00", close: "24:00" }] };

/** A desk with one analyst and room for a market of a million minutes, for as long as `work` runs. */
export function withMillion(
  work: (desk: { market: string; person: { email: string; password: string } }) => Promise<void>,
): Promise<void> {
  return withDesk(FOLDER, async () => {
    const person = { email: "bench@meridian.example", password: randomUUID() };
    await createAccount({ ...person, name: "Bench" }, "analyst");
    await work({ market: "bench", person });
  });
}

/**
 * Stores a million minutes; where it is measured, importing, reading and deriving them, each against the least it could
 * cost.
 */
export async function storeLines(marketId: string, accountId: string, measured: boolean): Promise<string[]> {
  const series = millionBars();
  const market = await aMarket(marketId, "Bench");
  const shelf = { marketId, base: "PT1M", shelf: "live" } as const;
  if (!measured) {
    await transact((transaction) => appendBars(shelf, series, transaction));
    return [];
  }
  writeFileSync(FILE, csvOf(series));
  const empty = async () => {
    await BarImport.destroy({ where: { marketId } });
    await BarChunk.destroy({ where: { marketId } });
  };
  const confirm = {
    market: marketId,
    name: "Bench",
    ...GRID,
    base: "PT1M",
    zone: "UTC",
    tick: 1,
    badRows: "refuse",
    differing: "ask",
  } as const;
  const importing = await compare({
    name: "importing a file of 1,000,000 minutes",
    ours: async () => {
      await empty();
      const body = Readable.toWeb(createReadStream(FILE)) as ReadableStream<Uint8Array>;
      await importUpload(await takeUpload(body, "million.csv", accountId), confirm, accountId);
    },
    other: async () => {
      await empty();
      Papa.parse(readFileSync(FILE, "utf8"));
      await transact((transaction) => appendBars(shelf, series, transaction));
    },
    otherName: "splitting it into cells and writing the chunks",
    pairs: 3,
  });
  const lines = [ratioLine(importing)];
  for (const rung of ["PT3M", "PT45M", "PT4H", "P1D", "P1W", "P1Y"])
    lines.push(
      ratioLine(
        await compare({
          name: `${rung} of 1,000,000 minutes, cold`,
          ours: async () => {
            // Another history makes everything that is kept in memory useless.
            await market.increment(["revision", "history"]);
            await seriesOf((await Market.findByPk(marketId))!, rung);
          },
          other: () => readBars(shelf),
          otherName: "reading the minutes",
          pairs: 5,
        }),
      ),
    );
  return [...lines, await oneMinuteLine(marketId, series, accountId)];
}

const aMarket = (id: string, name: string) =>
  Market.create({ id, name, ...GRID, tick: 1, pip: 1, pipName: "pt", calendar: CALENDAR });

/** What a program sends of each minute as it closes must not cost more for all the years before it. */
async function oneMinuteLine(marketId: string, { time, length }: Series, accountId: string): Promise<string> {
  const few = await aMarket(`${marketId}-few`, "Few");
  let sent = 0;
  const send = (market: string) => async () => {
    const row = `${new Date(time[length - 1] + ++sent * MINUTE).toISOString()},100,100,100,100,1`;
    const body = Readable.toWeb(Readable.from([Buffer.from(`time,open,high,low,close,volume\n${row}\n`)]));
    await importSent(market, body as ReadableStream<Uint8Array>, "feed", { ...SENT, timeframe: "PT1M" }, accountId);
  };
  return ratioLine(
    await compare({
      name: "one minute sent to a market of 1,000,000",
      ours: send(marketId),
      other: send(few.id),
      otherName: "sent to an empty one",
      pairs: 15,
    }),
  );
}

function csvOf(series: ReturnType<typeof millionBars>): string {
  const rows = ["time,open,high,low,close,volume"];
  for (let i = 0; i < series.length; i++)
    rows.push(
      [
        `${new Date(series.time[i]).toISOString().slice(0, 19)}Z`,
        ...[series.open[i], series.high[i], series.low[i], series.close[i], series.volume[i]],
      ].join(","),
    );
  return `${rows.join("\n")}\n`;
}
