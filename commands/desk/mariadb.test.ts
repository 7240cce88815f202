import { mkdtempSync, rmSync, statSync } from "node:fs";
import { join } from "node:path";
import mariadb from "mariadb";
import { afterAll, describe, expect, it } from "vitest";
import { startMariaDb, type Database } from "./mariadb.ts";

const folder = mkdtempSync("/tmp/compass-mariadb-");
let database: Database | undefined;

afterAll(async () => {
  await database?.stop();
  rmSync(folder, { recursive: true, force: true });
});

const connect = (url: string) => {
  const { port, username: user, password } = new URL(url);
  return mariadb.createConnection({ host: "127.0.0.1", port: Number(port), user, password, connectTimeout: 1000 });
};

describe("the desk's own database", () => {
  it("has no account without a password, none but ours, and what makes them is gone", { timeout: 60_000 }, async () => {
    database = await startMariaDb(folder);
    const root = await connect(database.url.replace("//compass:", "//root:"));
    const users: { User: string; Host: string; open: number }[] = await root.query(
      "SELECT User, Host, COALESCE(JSON_VALUE(Priv, '$.authentication_string'), '') = '' AND NOT " +
        "COALESCE(JSON_VALUE(Priv, '$.account_locked'), FALSE) AS open FROM mysql.global_priv",
    );
    await root.end();
    expect(users.map(({ User, Host }) => `${User}@${Host}`).sort()).toEqual([
      "compass@127.0.0.1",
      "compass@localhost",
      "mariadb.sys@localhost",
      "root@127.0.0.1",
      "root@localhost",
    ]);
    expect(users.filter(({ open }) => Number(open) === 1)).toEqual([]);
    const { port } = new URL(database.url);
    for (const user of ["root", "", "compass"])
      await expect(connect(`mariadb://${user}:@127.0.0.1:${port}/`)).rejects.toThrow();
    expect(statSync(join(folder, "mariadb", "accounts.sql"), { throwIfNoEntry: false })).toBeUndefined();
    expect(statSync(join(folder, "database.key")).mode & 0o077).toBe(0);
  });
  it(
    "is started again over the same files and port when it is killed, and not when it is stopped",
    { timeout: 60_000 },
    async () => {
      if (!database) throw new Error("It was not started.");
      const said: string[] = [];
      const leave = database.watch((why) => said.push(why));
      const before = database.pid();
      const first = await connect(database.url);
      await first.query("CREATE TABLE compass.kept (n INT)");
      first.on("error", () => {});
      process.kill(before, "SIGKILL");
      await expect
        .poll(
          async () => {
            const again = await connect(database?.url ?? "").catch(() => undefined);
            const rows = await again?.query<unknown[]>("SHOW TABLES FROM compass").catch(() => []);
            await again?.end();
            return database?.pid() === before ? 0 : (rows?.length ?? 0);
          },
          { timeout: 30_000 },
        )
        .toBe(1);
      expect(said).toEqual([expect.stringMatching(/MariaDB ended \(SIGKILL\); starting it again/)]);
      leave();
      await database.stop();
      database = undefined;
      expect(said).toHaveLength(1);
    },
  );
});
