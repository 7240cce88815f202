import { mkdirSync, rmSync } from "node:fs";
import { closeDatabase, openDatabase } from "../server/database/connection.ts";
import { sealOnce } from "../server/record/adopt.ts";
import { migrator } from "../server/database/migrate.ts";
import { closePool } from "../server/pool/pool.ts";
import { startMariaDb } from "../commands/desk/mariadb.ts";

/** A desk of its own with empty tables, for as long as `work` runs. */
export async function withDesk(folder: string, work: (url: string) => Promise<void>): Promise<void> {
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  const database = await startMariaDb(folder);
  process.env.COMPASS_DATABASE = database.url;
  process.env.COMPASS_VAR = folder;
  try {
    await migrator(openDatabase(database.url)).up();
    await sealOnce();
    await work(database.url);
  } finally {
    await closePool();
    await closeDatabase();
    await database.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}
