import { appendBars, lastTime } from "../../../server/bars/chunks.ts";
import { lockMarket } from "../../../server/bars/markets.ts";
import { closeDatabase, openDatabase, transact } from "../../../server/database/connection.ts";
import { readSettings } from "../../../server/settings.ts";
import { barsAppended } from "../../../server/watch/changes.ts";
import { arrivals, END, MARKET } from "./arrivals.ts";

/** Stores what arrives, piece after piece, and tells the watchers with each, until it is done or killed. */
openDatabase(readSettings().COMPASS_DATABASE);
for (const { base, bars } of arrivals()) {
  const shelf = { marketId: MARKET, base, shelf: "live" as const };
  await transact(async (transaction) => {
    const market = await lockMarket(MARKET, transaction);
    if ((await lastTime(shelf, transaction)) >= bars.time[0]) return;
    await appendBars(shelf, bars, transaction);
    await barsAppended([market], END, transaction);
    process.stdout.write(".");
  });
}
process.stdout.write("done");
await closeDatabase();
