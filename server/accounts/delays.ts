import { createHash, randomUUID } from "node:crypto";
import { Op, QueryTypes } from "sequelize";
import { SignInCount } from "../database/models.ts";
import { Failure } from "../failure.ts";

/** Failures in a row that cost nothing; each one after them doubles the wait, up to the longest. */
const FREE = 5;
const LONGEST = 15 * 60_000;
/** Failures are forgotten when nobody has tried for this long. */
const FORGOTTEN = 24 * 3_600_000;

/** How long the next sign-in has to wait after so many failures in a row (ms). */
export function delayAfter(failures: number): number {
  return failures < FREE ? 0 : Math.min(LONGEST, 1000 * 2 ** Math.min(30, failures - FREE + 1));
}

const digest = (text: string) => createHash("sha256").update(text).digest("hex");

/**
 * Whom failures are counted for: an account on a device it was signed in on before, or an account on all other devices
 * together. So whoever guesses at an account keeps strangers from it, never the person on the own device; an address
 * alone (an office, a train) is nobody. An account that there is not is counted like one that there is.
 */
export function subjectOf(account: string, device: string | undefined): string {
  return digest(device === undefined ? `strangers ${account}` : `device ${account} ${device}`);
}

/**
 * One statement, so that nobody comes between: a try that may be made takes the row's `triedBy` and counts; one that
 * has to wait changes nothing. Assignments are made from left to right, each seeing those before it.
 */
const COUNT = `INSERT INTO sign_in_counts (subject, failures, waitUntil, changedAt, triedBy) VALUES (:subject, 1, 0,
    :now, :id)
  ON DUPLICATE KEY UPDATE
    triedBy = IF(waitUntil > :now, triedBy, :id),
    failures = IF(triedBy = :id, IF(changedAt < :now - ${FORGOTTEN}, 1, failures + 1), failures),
    waitUntil = IF(triedBy = :id, :now + IF(failures < ${FREE}, 0, LEAST(${LONGEST}, 1000 * POW(2, LEAST(30,
    failures - ${FREE - 1})))), waitUntil),
    changedAt = IF(triedBy = :id, :now, changedAt)
  RETURNING triedBy, failures, waitUntil`;

/**
 * Counts a sign-in as failed before it is tried, so that two hundred at once are no two hundred tries. Throws a
 * `Failure` when it has to wait. Returns how many have failed in a row, this one included.
 */
export async function countBefore(subject: string, now = Date.now()): Promise<number> {
  const id = randomUUID();
  const [row] = await SignInCount.sequelize!.query<{ triedBy: string; failures: number; waitUntil: number }>(COUNT, {
    replacements: { subject, now, id },
    type: QueryTypes.SELECT,
  });
  if (row.triedBy !== id)
    throw new Failure("too-many", "Too many sign-ins failed.", {
      status: 429,
      remedy: `Wait ${waitText(row.waitUntil - now)} and try again, or sign in on a device you have used before.`,
    });
  return row.failures;
}

/** It was no failure after all. */
export async function forget(subject: string): Promise<void> {
  await SignInCount.destroy({ where: { subject } });
  await SignInCount.destroy({ where: { changedAt: { [Op.lt]: Date.now() - FORGOTTEN } } });
}

function waitText(ms: number): string {
  const seconds = Math.ceil(ms / 1000);
  return seconds < 90 ? `${seconds} s` : `${Math.ceil(seconds / 60)} min`;
}
