import { randomUUID } from "node:crypto";
import { QueryTypes } from "sequelize";
import { again } from "../again.ts";
import { theDatabase } from "./connection.ts";

/** How long a process that said nothing more still has its lease (ms): so long nobody does its work after it died. */
const LASTS = 5_000;

/** Milliseconds by the database's clock, which is the same for every process. */
const NOW = "UNIX_TIMESTAMP(NOW(3)) * 1000";

/** Takes a lease that nobody holds, or holds it on. Returns whether it is held. */
export async function takeLease(name: string, holder: string, lasts = LASTS): Promise<boolean> {
  const database = theDatabase();
  const replacements = { name, holder, lasts };
  await database.query("INSERT IGNORE INTO leases (name, holder, until) VALUES (:name, :holder, 0)", { replacements });
  const [, held] = await database.query(
    `UPDATE leases SET holder = :holder, until = ${NOW} + :lasts
     WHERE name = :name AND (holder = :holder OR until < ${NOW})`,
    { replacements, type: QueryTypes.UPDATE },
  );
  return held > 0;
}

/** Lets go of a lease, so that another takes it at once. */
export async function endLease(name: string, holder: string): Promise<void> {
  await theDatabase().query("UPDATE leases SET until = 0 WHERE name = :name AND holder = :holder", {
    replacements: { name, holder },
  });
}

/**
 * Does something again and again in one process at a time, of however many run: the others wait until that one ends, or
 * has said nothing for some seconds. Work that outlasts its lease must bear another beside it.
 */
export function againUnderLease(name: string, work: () => Promise<void>, every: number, fault: string): () => void {
  const holder = randomUUID();
  let until = 0;
  const step = async () => {
    const now = performance.now();
    // Held on while half of it is left.
    if (now > until - LASTS / 2) until = (await takeLease(name, holder)) ? now + LASTS : 0;
    if (until > 0) await work();
  };
  const stop = again(step, every, fault);
  return () => {
    stop();
    // Where the database is away already it ends by itself.
    if (until > 0) endLease(name, holder).catch(() => undefined);
  };
}
