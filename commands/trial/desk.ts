import { randomUUID } from "node:crypto";
import { mkdirSync, rmSync } from "node:fs";
import { plainDraft, type Block } from "#core/edition/blocks";
import { fromBars } from "#core/series/series";
import { aFormer } from "#core/testing/written";
import { MINUTE } from "#core/time/dates";
import { createAccount, nameOf } from "../../server/accounts/accounts.ts";
import { appendBars } from "../../server/bars/chunks.ts";
import { openDatabase, transact } from "../../server/database/connection.ts";
import { sealOnce } from "../../server/record/adopt.ts";
import { migrator } from "../../server/database/migrate.ts";
import { Account, Market } from "../../server/database/models.ts";
import { saveScenario } from "../../server/desk/scenarios.ts";
import { createDraft, saveDraft } from "../../server/publishing/drafts.ts";
import { publish } from "../../server/publishing/publish.ts";
import { startMariaDb, type Database } from "../desk/mariadb.ts";
import { TRIAL_MARKET } from "./shape.ts";

/** A desk of its own in an empty folder, with somebody who publishes and a market with bars. */
export async function startTrialDesk(folder: string): Promise<Database> {
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  const database = await startMariaDb(folder);
  process.env.COMPASS_DATABASE = database.url;
  process.env.COMPASS_VAR = folder;
  await migrator(openDatabase(database.url)).up();
  await sealOnce();
  await createAccount({ email: `${randomUUID()}@meridian.example`, name: "Trial", password: randomUUID() }, "analyst");
  await Market.create({
    ...{ id: TRIAL_MARKET, name: "Trial", kind: "other", tick: 0.01, pip: 0.01, pipName: "pip", decimals: 2 },
    calendar: { zone: "UTC", sessions: [{ days: [1, 2, 3, 4, 5, 6, 7], open: "00:00", close: "24:00" }] },
  });
  const bars = fromBars(
    Array.from({ length: 1200 }, (_, i) => {
      const close = Number((100 + Math.sin(i / 20)).toFixed(2));
      const time = Date.UTC(2024, 0, 2) + i * MINUTE;
      return { time, open: close, high: close + 0.05, low: close - 0.05, close, volume: 1 };
    }),
  );
  const live = { marketId: TRIAL_MARKET, base: "PT1M", shelf: "live" } as const;
  await transact((transaction) => appendBars(live, bars, transaction));
  return database;
}

/** Publishes an edition with a call and a walk; its number. */
export async function publishOnTrial(): Promise<number> {
  const author = await Account.findOne({ where: { role: "analyst" }, rejectOnEmpty: true });
  const scenario = aFormer({
    ...{ trigger: { event: "closeAbove", price: 1e6, timeframe: "PT1H" }, entry: { order: "market", price: 100 } },
    ...{ stop: 99, targets: [{ price: 103, share: 1 }], invalidation: 98 },
  });
  await saveScenario(TRIAL_MARKET, { version: 0, step: "save", scenario }, author.id);
  const draft = await createDraft(author.id);
  const { blocks, ...rest } = plainDraft("Trial", "Words.", [
    { market: TRIAL_MARKET, rung: "PT15M", scenarios: [scenario.id] },
  ]);
  const walk: Block = { kind: "walk", id: "walk", market: TRIAL_MARKET, steps: [{ rung: "PT1H", text: "Up." }] };
  await saveDraft(draft.id, { ...rest, version: 1, blocks: [...blocks, walk] });
  return publish(draft.id, { id: author.id, name: await nameOf(author.id) });
}

/** Readers with confirmed addresses, who cannot sign in by a password; their ids. */
export async function manyReaders(count: number): Promise<string[]> {
  const now = Date.now();
  const rows = Array.from({ length: count }, (_, i) => ({
    ...{ id: randomUUID(), email: `reader-${i}@meridian.example`, name: `Reader ${i}`, role: "subscriber" as const },
    ...{ passwordHash: "none", createdAt: now, confirmedAt: now },
  }));
  for (let from = 0; from < count; from += 2_000) await Account.bulkCreate(rows.slice(from, from + 2_000));
  return rows.map(({ id }) => id);
}
