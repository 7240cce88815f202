import { chmodSync, existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join, resolve } from "node:path";
import { openDatabase } from "../../server/database/connection.ts";
import { openRecord } from "../../server/record/adopt.ts";
import { makeAllFindable } from "../../server/publishing/findable.ts";
import { closePlans } from "../../server/accounts/plans.ts";
import { FIRST_STEP, migrator } from "../../server/database/migrate.ts";
import { ensureBuild } from "./build.ts";
import { startMariaDb, type Database } from "./mariadb.ts";
import { freePort } from "./ports.ts";
import { startStandIns, type StandIns } from "./standIns.ts";
import { keepWeb, type Kept } from "./supervise.ts";
import { CommandFault, timed } from "./timing.ts";

/**
 * "demo" is the invented world, "desk" one's own, the others what the browser tests work on, a part of them on each,
 * and what trials may break.
 */
export const DESKS = ["demo", "desk", "test-1", "test-2", "test-3", "trial-hostile"] as const;
export type DeskName = (typeof DESKS)[number];

export function folderOf(desk: DeskName): string {
  return join("var", desk);
}

export function readDeskName(text: string | undefined): DeskName {
  const found = DESKS.find((name) => name === text);
  if (!found) throw new CommandFault("Say which: demo or desk.");
  return found;
}

interface Note {
  pid: number;
  address: string;
  database: string;
}

/** The process that runs a desk now, if one does. */
export function runningDesk(desk: DeskName): Note | undefined {
  const file = join(folderOf(desk), "running.json");
  if (!existsSync(file)) return undefined;
  const note = JSON.parse(readFileSync(file, "utf8")) as Note;
  try {
    process.kill(note.pid, 0);
    // A number may have gone to another process since; ours are Node.js and know this folder's command.
    return readFileSync(`/proc/${note.pid}/cmdline`, "utf8").includes("commands/") ? note : undefined;
  } catch {
    return undefined;
  }
}

/** Where the database of a running desk answers, so that other commands need not start one over the same files. */
export function runningDatabase(desk: DeskName): string | undefined {
  return runningDesk(desk)?.database;
}

/** Starts the database and brings its tables up to date. */
export async function openDesk(desk: DeskName): Promise<Database> {
  const folder = folderOf(desk);
  const asked = process.env.COMPASS_VAR;
  if (asked !== undefined && resolve(asked) !== resolve(folder))
    throw new CommandFault(
      `COMPASS_VAR says ${asked}, and this desk keeps its files in ${folder}: leave it out, or link that folder.`,
    );
  // Others may pass, to the database's own folder, but see nothing: what lies beside it is closed one by one.
  mkdirSync(folder, { recursive: true });
  chmodSync(folder, 0o711);
  const database = await timed("Starting MariaDB", () => startMariaDb(folder));
  process.env.COMPASS_DATABASE = database.url;
  process.env.COMPASS_VAR = folder;
  const sequelize = openDatabase(database.url);
  try {
    const done = await migrator(sequelize).up();
    if (done.length > 0)
      process.stderr.write(`Tables brought up to date: ${done.map(({ name }) => name).join(", ")}.\n`);
    if (desk === "desk" && done.some(({ name }) => name === FIRST_STEP)) await closePlans();
    await openRecord();
    await makeAllFindable();
  } catch (error) {
    await database.stop();
    throw error;
  }
  return database;
}

/** Runs a desk until it is told to stop. `prepare` fills it; `greet` says what to do next. */
export async function runDesk(
  desk: DeskName,
  prepare: () => Promise<void>,
  greet: (address: string) => Promise<string>,
  { standIns }: { standIns: boolean },
): Promise<void> {
  const other = runningDesk(desk);
  if (other) {
    process.stdout.write(`It is already running: ${other.address}\n`);
    return;
  }
  await ensureBuild();
  const database = await openDesk(desk);
  const note = join(folderOf(desk), "running.json");
  const say = (why: string) => process.stderr.write(`${new Date().toISOString()} ${why}.\n`);
  const leaveDatabase = database.watch(say);
  let web: Kept | undefined;
  let beside: StandIns | undefined;
  let ending: Promise<void> | undefined;
  const end = async () => {
    process.stderr.write("\nStopping ... ");
    leaveDatabase();
    await web?.close();
    await beside?.close();
    await database.stop();
    rmSync(note, { force: true });
    process.stderr.write("stopped.\n");
    process.exit();
  };
  for (const signal of ["SIGINT", "SIGTERM", "SIGHUP"] as const) process.on(signal, () => (ending ??= end()));
  try {
    await prepare();
    if (standIns) beside = await startStandIns(folderOf(desk));
    const port = await freePort(Number(process.env.COMPASS_PORT) || 4310);
    process.env.COMPASS_PORT = String(port);
    web = await timed("Starting the desk", () => keepWeb(say));
    const address = `http://127.0.0.1:${port}/`;
    writeFileSync(note, JSON.stringify({ pid: process.pid, address, database: database.url } satisfies Note), {
      mode: 0o600,
    });
    process.stdout.write(`${await greet(address)}\n`);
  } catch (error) {
    leaveDatabase();
    await database.stop();
    throw error;
  }
}
