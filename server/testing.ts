import { randomUUID } from "node:crypto";
import { mkdirSync, mkdtempSync } from "node:fs";
import { join, resolve } from "node:path";
import { Readable } from "node:stream";
import type { ReadableStream } from "node:stream/web";
import { Op, QueryTypes, type Sequelize } from "sequelize";
import { afterAll, beforeAll } from "vitest";
import { plainDraft } from "#core/edition/blocks";
import type { ConfirmImportDto } from "#contracts/market";
import { aFormer } from "#core/testing/written";
import type { Scenario } from "#core/scenarios/scenario";
import { fromBars, type Bar, type Series } from "#core/series/series";
import { createAccount } from "./accounts/accounts.ts";
import type { Person } from "./accounts/sessions.ts";
import { appendBars } from "./bars/chunks.ts";
import { takeUpload } from "./bars/uploads.ts";
import { closeDatabase, openDatabase, transact } from "./database/connection.ts";
import { migrator } from "./database/migrate.ts";
import { ClockRow, Market, WatcherRow } from "./database/models.ts";
import { saveScenario } from "./desk/scenarios.ts";
import { closePool } from "./pool/pool.ts";
import { createDraft, saveDraft } from "./publishing/drafts.ts";
import { publish } from "./publishing/publish.ts";
import { sealOnce } from "./record/adopt.ts";
import { forgetCheck } from "./record/check.ts";
import { keepHeads } from "./record/heads.ts";
import { forgetSettings } from "./settings.ts";
import { forgetReplays } from "./watch/callReplays.ts";

let folder: string | undefined;

/** The database that `./compass test` started for these tests; each file begins with empty tables. */
export function withTables(): void {
  beforeAll(async () => {
    const url = process.env.COMPASS_DATABASE;
    if (!url) throw new Error("Run server tests with ./compass test unit: they need its database.");
    // Each file has a folder of its own: keys and heads of one record are nothing to the next.
    folder ??= resolve(process.env.COMPASS_VAR ?? "/tmp");
    const base = folder;
    mkdirSync(base, { recursive: true });
    process.env.COMPASS_VAR = mkdtempSync(join(base, "test-"));
    // Files share what they import: what a process remembers of its desk is of another one now.
    forgetSettings();
    forgetCheck();
    forgetReplays();
    keepHeads([], true);
    await emptyTables(openDatabase(url));
    await sealOnce();
    // Tables are made anew: on a machine that has other work that takes its time.
  }, 60_000);
  afterAll(async () => {
    await closePool();
    await closeDatabase();
  });
}

/** What new tables hold of themselves; unknown until this process has made them once. */
let first: Map<string, object[]> | undefined;

/** A row as it is written: what JSON columns hold is text then. */
function asStored(row: object): object {
  const isJson = (value: unknown) => typeof value === "object" && value !== null && !Buffer.isBuffer(value);
  return Object.fromEntries(
    Object.entries(row).map(([name, value]) => [name, isJson(value) ? JSON.stringify(value) : value]),
  );
}

/** Makes the tables, up and down and up again, once; from then on every file finds what they held then. */
async function emptyTables(sequelize: Sequelize): Promise<void> {
  const context = sequelize.getQueryInterface();
  if (!first) {
    const steps = migrator(sequelize);
    await steps.up();
    await steps.down({ to: 0 });
    await steps.up();
    first = new Map();
    const tables = await sequelize.query<Record<string, string>>("SHOW TABLES", { type: QueryTypes.SELECT });
    for (const name of tables.flatMap((row) => Object.values(row)))
      first.set(name, await sequelize.query(`SELECT * FROM \`${name}\``, { type: QueryTypes.SELECT }));
    return;
  }
  await transact(async (transaction) => {
    await sequelize.query("SET FOREIGN_KEY_CHECKS = 0", { transaction });
    for (const [name, rows] of first ?? []) {
      await sequelize.query(`DELETE FROM \`${name}\``, { transaction });
      if (rows.length > 0) await context.bulkInsert(name, rows.map(asStored), { transaction });
    }
    await sequelize.query("SET FOREIGN_KEY_CHECKS = 1", { transaction });
  });
}

export async function anAnalyst(): Promise<{ id: string; name: string }> {
  return createAccount(
    { email: `${randomUUID()}@meridian.example`, name: "Ada Reed", password: "long enough" },
    "analyst",
  );
}

/** A reader, their address beginning as it is said. */
export function aReader({ before = "reader", name = "Rea Hill" } = {}): Promise<Person> {
  const email = `${before}-${randomUUID()}@meridian.example`;
  return createAccount({ email, name, password: "long enough" }, "subscriber");
}

export async function aMarket(id: string = randomUUID()): Promise<Market> {
  const sessions = [{ days: [1, 2, 3, 4, 5, 6, 7], open: "00:00", close: "24:00" }];
  return Market.create({
    id,
    name: id,
    kind: "other",
    tick: 0.01,
    pip: 0.01,
    pipName: "pip",
    decimals: 2,
    calendar: { zone: "UTC", sessions },
  });
}

export async function setClock(now: number): Promise<void> {
  await transact(async (transaction) => {
    await ClockRow.destroy({ where: {}, transaction });
    await ClockRow.create({ id: 1, now, speed: 0, wallTime: Date.now() }, { transaction });
  });
}

/** Minutes from `start` at the given closes; each opens where the last closed. */
export function minutes(start: number, closes: readonly number[]): Series {
  return fromBars(
    closes.map((close, i): Bar => {
      const open = closes[Math.max(0, i - 1)];
      return {
        time: start + i * 60_000,
        open,
        high: Math.max(open, close),
        low: Math.min(open, close),
        close,
        volume: 1,
      };
    }),
  );
}

export async function upload(text: string | Buffer, accountId: string, name = "bars.csv"): Promise<string> {
  const body = Readable.toWeb(Readable.from([Buffer.from(text)])) as ReadableStream<Uint8Array>;
  return takeUpload(body, name, accountId);
}

export function confirmation(change: Partial<ConfirmImportDto> = {}): ConfirmImportDto {
  const name = `M ${randomUUID().slice(0, 8)}`;
  return {
    market: "",
    name,
    kind: "other",
    base: "P1D",
    zone: "UTC",
    tick: 0.01,
    decimals: 2,
    badRows: "refuse",
    differing: "ask",
    ...change,
  };
}

/** A daily file from a day on. */
export function dailyFile(from: number, count: number, close = 10): string {
  const rows = Array.from({ length: count }, (_, i) => {
    const date = new Date(Date.UTC(2020, 0, 1 + from + i)).toISOString().slice(0, 10);
    return `${date},${close},${close + 1},${close - 1},${close},5`;
  });
  return ["date,open,high,low,close,volume", ...rows].join("\n");
}

/** Resolves to the failure a promise is expected to end with. */
export async function failureOf(
  work: Promise<unknown>,
): Promise<{ code: string; sentence: string; details: Record<string, unknown> }> {
  try {
    await work;
  } catch (error) {
    return error as never;
  }
  throw new Error("It was expected to fail and did not.");
}

/** When the markets below begin. */
export const START = Date.UTC(2024, 0, 2);
export const MINUTE = 60_000;

/** A market with ten hours of minutes behind the clock and a tape of closes ahead of it. */
export async function aMarketWithTape(tape: number[]): Promise<Market> {
  const market = await aMarket();
  const now = START + 600 * MINUTE;
  await transact(async (transaction) => {
    const before = Array.from({ length: 600 }, () => 100);
    const of = { marketId: market.id, base: "PT1M" };
    await appendBars({ ...of, shelf: "live" }, minutes(START, before), transaction);
    await appendBars({ ...of, shelf: "tape" }, minutes(now, tape), transaction);
  });
  await setClock(now);
  return market;
}

/**
 * Publishes an edition of one scenario on a market, long from the next open unless something else is asked for. Returns
 * its number.
 */
export async function aPublishedScenario(marketId: string, change: Partial<Scenario> = {}): Promise<number> {
  const author = await anAnalyst();
  const scenario = aFormer({
    trigger: { event: "closeAbove", price: 1e6, timeframe: "P1D" },
    entry: { order: "market", price: 10 },
    targets: [{ price: 1e7, share: 1 }],
    invalidation: 0.5,
    ...change,
  });
  await saveScenario(marketId, { version: 0, step: "save", scenario }, author.id);
  const draft = await createDraft(author.id);
  await saveDraft(draft.id, {
    version: 1,
    ...plainDraft("T", "B", [{ market: marketId, rung: "P1D", scenarios: [scenario.id] }]),
  });
  return publish(draft.id, author);
}

/** Whoever follows the scenarios of an edition. */
export function watchersOf(edition: number): Promise<WatcherRow[]> {
  return WatcherRow.findAll({ where: { kind: "scenario", subject: { [Op.startsWith]: `${edition}/` } } });
}
