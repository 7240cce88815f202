import { AsyncLocalStorage } from "node:async_hooks";
import PQueue from "p-queue";
import {
  BaseError,
  ConnectionError,
  DatabaseError,
  type FindOptions,
  QueryTypes,
  Sequelize,
  Transaction,
  UniqueConstraintError,
} from "sequelize";
import { Failure } from "../failure.ts";
import { bindModels } from "./models.ts";

let open: Sequelize | undefined;

/** Connections of a process; all but the spare ones may be held by transactions, which wait for each other's rows. */
const CONNECTIONS = 16;
const SPARE = 4;
/** Transactions that may wait for their turn: more would wait longer than anybody does. */
const WAITING = 400;

/**
 * Whatever is asked of the database while a transaction is on is asked over its connection: the mapper looks the
 * transaction up here, so that code within it cannot forget to pass it on and wait for a connection that the very
 * transactions waiting for this one's rows hold.
 */
const context = new AsyncLocalStorage<Map<string, unknown>>();
// eslint-disable-next-line react-hooks/rules-of-hooks -- its name begins like one of React's
Sequelize.useCLS({
  bind: <T>(work: T) => work,
  run: (work: (context: unknown) => unknown) => context.run(new Map(context.getStore()), () => work(undefined)),
  get: (key: string) => context.getStore()?.get(key),
  set: (key: string, value: unknown) => context.getStore()?.set(key, value),
});

/** Transactions beside each other: those who only read always find a connection. */
const turns = new PQueue({ concurrency: CONNECTIONS - SPARE });

/** Opens the database once for the process and binds the models to it. */
export function openDatabase(url: string): Sequelize {
  if (open) return open;
  open = new Sequelize(url, {
    dialect: "mariadb",
    logging: false,
    timezone: "+00:00",
    pool: { max: CONNECTIONS, idle: 30_000, acquire: 5_000 },
    // Said once a connection instead of before every transaction.
    dialectOptions: {
      maxAllowedPacket: 64 * 1024 * 1024,
      connectTimeout: 5_000,
      initSql: "SET SESSION TRANSACTION ISOLATION LEVEL READ COMMITTED",
    },
  });
  open.addHook("afterQuery", ({ type, isShown }: { type?: string; isShown?: boolean }) => {
    if (type !== QueryTypes.SELECT && isShown !== false) writes++;
  });
  // Of a key of several columns the mapper takes any part for the whole key, and reads every row it is in.
  open.addHook("beforeFind", (options: FindOptions) => {
    if (options.plain) options.limit ??= 1;
  });
  bindModels(open);
  return open;
}

/** The database that is open. Throws where none is. */
export function theDatabase(): Sequelize {
  if (!open) throw new Error("The database is not open.");
  return open;
}

/** An option of a write that changes nothing many are shown: what they read before still stands. */
export const SHOWN_TO_NOBODY = { isShown: false };

let writes = 0;

/** How often this process has written, or ended a transaction: what was read before may have changed since. */
export const writesSoFar = () => writes;

export async function closeDatabase(): Promise<void> {
  await open?.close();
  open = undefined;
}

/** The transaction that is on where this is asked. */
export function currentTransaction(): Transaction | undefined {
  return context.getStore()?.get("transaction") as Transaction | undefined;
}

const RETRIED = new Set(["ER_LOCK_DEADLOCK", "ER_LOCK_WAIT_TIMEOUT", "ER_CHECKREAD"]);

/**
 * One transaction over one connection, tried again up to five times when the database chose it as a deadlock's victim.
 * Within another it is a part of that one. A `Failure` when too many are waiting for their turn.
 */
export async function transact<T>(work: (transaction: Transaction) => Promise<T>): Promise<T> {
  const outer = currentTransaction();
  if (outer) return work(outer);
  if (turns.size >= WAITING)
    throw new Failure("busy", "Too much is being saved at this moment.", {
      status: 503,
      kept: "This was not stored.",
      remedy: "Try again in a few seconds.",
    });
  return turns.add(() => tryTransaction(work)) as Promise<T>;
}

/**
 * Reads everything as it stood at one moment, whatever is written meanwhile; within a transaction as that one sees it.
 */
export async function snapshot<T>(work: () => Promise<T>): Promise<T> {
  if (currentTransaction()) return work();
  return theDatabase().transaction({ isolationLevel: Transaction.ISOLATION_LEVELS.REPEATABLE_READ }, work);
}

async function tryTransaction<T>(work: (transaction: Transaction) => Promise<T>): Promise<T> {
  const database = theDatabase();
  for (let attempt = 1; ; attempt++) {
    try {
      return await database.transaction(work);
    } catch (error) {
      if (attempt >= 5 || !isRetriable(error)) throw error;
      await new Promise((resolve) => setTimeout(resolve, 20 * attempt * attempt));
    }
  }
}

function codeOf(error: BaseError): string {
  return (error as BaseError & { original?: Error & { code?: string } }).original?.code ?? "";
}

function isRetriable(error: unknown): boolean {
  return error instanceof DatabaseError && RETRIED.has(codeOf(error));
}

export function isDuplicate(error: unknown): boolean {
  return error instanceof UniqueConstraintError;
}

/** Whether the database itself is away: it does not answer, ended in the middle, or has no connection left. */
export function isUnreachable(error: unknown): boolean {
  if (error instanceof ConnectionError) return true;
  if (!(error instanceof Error)) return false;
  const fatal = (error as { original?: { fatal?: boolean } }).original?.fatal ?? (error as { fatal?: boolean }).fatal;
  // The pool of a database that is being closed refuses everything in words of its own.
  return (
    fatal === true ||
    /socket|connection.*(closed|lost)|ECONNREFUSED|ECONNRESET|server shutdown/i.test(
      `${error instanceof BaseError ? codeOf(error) : ""} ${error.message}`,
    )
  );
}

/** Whether there is no room left: on the disk files are written to, or on that of the database. */
export function isDiskFull(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  const codes = [error, (error as { original?: unknown }).original, (error as { cause?: unknown }).cause];
  return codes.some((one) => {
    const { code, errno } = (one ?? {}) as { code?: string; errno?: number };
    // MariaDB: 1021 ER_DISK_FULL, 1114 ER_RECORD_FILE_FULL.
    return code === "ENOSPC" || code === "EDQUOT" || errno === 1021 || errno === 1114;
  });
}
