import { spawn } from "node:child_process";
import { readFileSync, rmSync } from "node:fs";
import { closeDatabase, openDatabase } from "../../server/database/connection.ts";
import { Draft, Edition } from "../../server/database/models.ts";
import { startMariaDb } from "../desk/mariadb.ts";
import { CommandFault } from "../desk/timing.ts";
import { startTrialDesk } from "./desk.ts";
import { examineEditions } from "./editions.ts";

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
  let database = await startTrialDesk(FOLDER);
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
