import { spawn } from "node:child_process";
import { mkdirSync, readFileSync, rmSync } from "node:fs";
import { randomUUID } from "node:crypto";
import { createAccount } from "../server/accounts/accounts.ts";
import { lastTime, readBars } from "../server/bars/chunks.ts";
import { closeDatabase, openDatabase } from "../server/database/connection.ts";
import { sealOnce } from "../server/record/adopt.ts";
import { migrator } from "../server/database/migrate.ts";
import { BarImport, Market, Restatement } from "../server/database/models.ts";
import { startMariaDb } from "./desk/mariadb.ts";
import { CommandFault, runCommand } from "./desk/timing.ts";
import { alertsTrial } from "./trial/alerts.ts";
import { examineEditions } from "./trial/editions.ts";
import { mailTrial } from "./trial/mail.ts";
import { readersTrial } from "./trial/readers.ts";
import { publishTrial } from "./trial/publish.ts";
import { evaluatorsTrial } from "./trial/evaluators.ts";
import { watchTrial } from "./trial/watch/watch.ts";
import { hostileTrial } from "./trial/hostile/hostile.ts";
import { OTHER_PRICE, OVERLAY, PRICE, RESTATED_MARKET, ROWS, TRIAL_MARKET } from "./trial/shape.ts";

const FOLDER = "var/trial";
const SHELF = { marketId: TRIAL_MARKET, base: "P1D", shelf: "live" } as const;

/** Runs the worker and kills it, and every third time the database too, at a random moment of its work. */
async function killOnce(url: string, from: number, alsoDatabase: boolean): Promise<void> {
  const child = spawn("node_modules/.bin/tsx", ["commands/trial/worker.ts", String(from)], {
    stdio: ["ignore", "pipe", "ignore"],
    detached: true,
    env: { ...process.env, COMPASS_DATABASE: url, COMPASS_VAR: FOLDER, COMPASS_LOG: "silent" },
  });
  const ended = new Promise((done) => child.once("exit", done));
  // Work has begun with the first dot; then anything from nothing to two rounds later.
  await Promise.race([new Promise((done) => child.stdout.once("data", done)), ended]);
  await new Promise((done) => setTimeout(done, Math.random() * 400));
  if (alsoDatabase) process.kill(Number(readFileSync(`${FOLDER}/mariadb/server.pid`, "utf8")), "SIGKILL");
  if (child.pid) process.kill(-child.pid, "SIGKILL");
  await ended;
}

/** What must hold whenever anything was killed; returns the figures. */
async function examine(): Promise<{ bars: number; imports: number; editions: number; restatements: number }> {
  const series = await readBars(SHELF);
  const imports = await BarImport.count({ where: { marketId: TRIAL_MARKET } });
  if (series.length !== imports * ROWS)
    throw new CommandFault(`${series.length} bars are stored of ${imports} imports of ${ROWS}: one is half there.`);
  for (let i = 1; i < series.length; i++)
    if (series.time[i] <= series.time[i - 1]) throw new CommandFault("Bars are out of order.");
  const editions = await examineEditions();
  return { bars: series.length, imports, editions, restatements: await examineRestated() };
}

/**
 * The restated market holds the first file, or that with the whole of the second over it; its history knows of each
 * change.
 */
async function examineRestated(): Promise<number> {
  const { close, length } = await readBars({ ...SHELF, marketId: RESTATED_MARKET });
  const standing = await BarImport.count({ where: { marketId: RESTATED_MARKET, standing: 1 } });
  const expected = [0, ROWS, OVERLAY.to][standing];
  if (length !== expected)
    throw new CommandFault(
      `${length} bars stand of ${standing} imports, not ${expected}: a restatement is half there.`,
    );
  for (let i = 0; i < length; i++)
    if (close[i] !== (standing === 2 && i >= OVERLAY.from ? OTHER_PRICE : PRICE))
      throw new CommandFault(`Day ${i} of the restated market closes at ${close[i]}: a restatement is half there.`);
  const restatements = await Restatement.count({ where: { marketId: RESTATED_MARKET } });
  const { history } = await Market.findByPk(RESTATED_MARKET, { rejectOnEmpty: true });
  if (history !== restatements + 1)
    throw new CommandFault(`The history counts ${history - 1} restatements, the record ${restatements}.`);
  return restatements;
}

runCommand(async () => {
  if (process.argv[2] === "alerts") return alertsTrial();
  if (process.argv[2] === "publish")
    return publishTrial(Number(process.argv[3] ?? (process.env.COMPASS_SHORT ? 3 : 200)));
  if (process.argv[2] === "mail")
    return mailTrial(Number(process.argv[3] ?? (process.env.COMPASS_SHORT ? 30 : 10_000)));
  if (process.argv[2] === "readers")
    return readersTrial(process.env.COMPASS_SHORT ? { seconds: 2, rate: 8 } : { seconds: 60, rate: 500 });
  if (process.argv[2] === "watch") return watchTrial();
  if (process.argv[2] === "evaluators") return evaluatorsTrial(Number(process.argv[3] ?? 1));
  if (process.argv[2] === "hostile")
    return hostileTrial(
      process.argv[3] === "short"
        ? { wild: 200, kills: 2, rounds: 2, timed: false }
        : { wild: 20_000, kills: 12, rounds: 40, timed: true },
    );
  const kills = Number(process.argv[2] ?? 20);
  rmSync(FOLDER, { recursive: true, force: true });
  mkdirSync(FOLDER, { recursive: true });
  let database = await startMariaDb(FOLDER);
  process.env.COMPASS_DATABASE = database.url;
  process.env.COMPASS_VAR = FOLDER;
  const sequelize = openDatabase(database.url);
  await migrator(sequelize).up();
  await sealOnce();
  await createAccount({ email: `${randomUUID()}@meridian.example`, name: "Trial", password: randomUUID() }, "analyst");
  const sessions = [{ days: [1, 2, 3, 4, 5, 6, 7], open: "00:00", close: "24:00" }];
  for (const id of [TRIAL_MARKET, RESTATED_MARKET])
    await Market.create({
      id,
      name: id,
      kind: "other",
      tick: 0.01,
      pip: 0.01,
      pipName: "pip",
      decimals: 2,
      calendar: { zone: "UTC", sessions },
    });
  let databaseKills = 0;
  for (let n = 0; n < kills; n++) {
    const alsoDatabase = n % 3 === 2;
    const next = Math.max(0, Math.floor((await lastTime(SHELF)) / 86_400_000 / ROWS) + 1);
    await closeDatabase();
    await killOnce(database.url, next, alsoDatabase);
    if (alsoDatabase) {
      databaseKills++;
      database = await startMariaDb(FOLDER);
    }
    openDatabase(database.url);
    const { bars, imports, editions, restatements } = await examine();
    process.stdout.write(
      `kill ${n + 1}: ${bars} bars of ${imports} imports, ${restatements} restatements and ${editions} ` +
        `editions, all whole\n`,
    );
  }
  await closeDatabase();
  await database.stop();
  rmSync(FOLDER, { recursive: true, force: true });
  process.stdout.write(
    `\n${kills} kills of the server, ${databaseKills} of them with the database: nothing was half there.\n`,
  );
});
