import { randomUUID } from "node:crypto";
import { spawn } from "node:child_process";
import { mkdirSync, readFileSync, rmSync } from "node:fs";
import { createAccount } from "../../server/accounts/accounts.ts";
import { MINUTE } from "#core/time/dates";
import { appendBars } from "../../server/bars/chunks.ts";
import { closeDatabase, openDatabase, transact } from "../../server/database/connection.ts";
import { migrator } from "../../server/database/migrate.ts";
import { Draft, Edition, Market } from "../../server/database/models.ts";
import { fromBars } from "#core/series/series";
import { startMariaDb } from "../desk/mariadb.ts";
import { CommandFault } from "../desk/timing.ts";
import { examineEditions } from "./editions.ts";
import { TRIAL_MARKET } from "./shape.ts";

const FOLDER = "var/trial-publish";
/** How long after its beginning a publication is killed at most (ms): about as long as one takes. */
const WITHIN = 900;

/** Kills whoever publishes, and every third time the database with it, at a random moment of its work. */
async function killOnce(url: string, alsoDatabase: boolean): Promise<void> {
  const child = spawn("node_modules/.bin/tsx", ["commands/trial/publishWorker.ts"], {
    stdio: ["ignore", "pipe", "ignore"],
    detached: true,
    env: { ...process.env, COMPASS_DATABASE: url, COMPASS_VAR: FOLDER, COMPASS_LOG: "silent" },
  });
  const ended = new Promise((done) => child.once("exit", done));
  // Several go out whole before one is struck.
  let whole = 0;
  const wanted = Math.floor(Math.random() * 8);
  await Promise.race([
    new Promise<void>((done) =>
      child.stdout.on("data", (chunk: Buffer) => {
        whole += chunk.length;
        if (whole > wanted) done();
      }),
    ),
    ended,
  ]);
  await new Promise((done) => setTimeout(done, Math.random() * WITHIN));
  if (alsoDatabase) process.kill(Number(readFileSync(`${FOLDER}/mariadb/server.pid`, "utf8")), "SIGKILL");
  if (child.pid) process.kill(-child.pid, "SIGKILL");
  await ended;
}

/**
 * Publishes until so many editions stand, killed again and again: after each kill every edition is whole or not there
 * at all, and the chain holds.
 */
export async function publishTrial(publications: number): Promise<void> {
  rmSync(FOLDER, { recursive: true, force: true });
  mkdirSync(FOLDER, { recursive: true });
  let database = await startMariaDb(FOLDER);
  process.env.COMPASS_DATABASE = database.url;
  process.env.COMPASS_VAR = FOLDER;
  await migrator(openDatabase(database.url)).up();
  await seed();
  let [kills, databaseKills, editions] = [0, 0, 0];
  while (editions < publications) {
    const alsoDatabase = ++kills % 3 === 0;
    await closeDatabase();
    await killOnce(database.url, alsoDatabase);
    if (alsoDatabase) {
      databaseKills++;
      database = await startMariaDb(FOLDER);
    }
    openDatabase(database.url);
    editions = await examineEditions();
    process.stdout.write(`kill ${kills}: ${editions} editions, all whole\n`);
    if (kills > 20 && editions === 0) throw new CommandFault("Nothing was published.");
  }
  const struck = (await Draft.count()) - (await Edition.count());
  await closeDatabase();
  await database.stop();
  rmSync(FOLDER, { recursive: true, force: true });
  process.stdout.write(
    `\n${editions} publications under ${kills} kills, ${databaseKills} with the database; ${struck} were struck ` +
      `before they were through. Every edition is whole or not there, and the chain holds.\n`,
  );
}

async function seed(): Promise<void> {
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
}
