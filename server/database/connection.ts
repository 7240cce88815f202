import { DatabaseError, Sequelize, Transaction, UniqueConstraintError } from "sequelize";
import { bindModels } from "./models.ts";

let open: Sequelize | undefined;

/** Opens the database once for the process and binds the models to it. */
export function openDatabase(url: string): Sequelize {
  if (open) return open;
  open = new Sequelize(url, {
    dialect: "mariadb",
    logging: false,
    timezone: "+00:00",
    pool: { max: 10, idle: 30_000 },
    dialectOptions: { maxAllowedPacket: 64 * 1024 * 1024, connectTimeout: 5_000 },
  });
  bindModels(open);
  return open;
}

export async function closeDatabase(): Promise<void> {
  await open?.close();
  open = undefined;
}

const RETRIED = new Set(["ER_LOCK_DEADLOCK", "ER_LOCK_WAIT_TIMEOUT", "ER_CHECKREAD"]);

/** One transaction, tried again up to five times when the database chose it as a deadlock's victim. */
export async function transact<T>(work: (transaction: Transaction) => Promise<T>): Promise<T> {
  if (!open) throw new Error("The database is not open.");
  for (let attempt = 1; ; attempt++) {
    try {
      return await open.transaction({ isolationLevel: Transaction.ISOLATION_LEVELS.READ_COMMITTED }, work);
    } catch (error) {
      if (attempt >= 5 || !isRetriable(error)) throw error;
      await new Promise((resolve) => setTimeout(resolve, 20 * attempt * attempt));
    }
  }
}

function isRetriable(error: unknown): boolean {
  return error instanceof DatabaseError && RETRIED.has((error.original as Error & { code?: string }).code ?? "");
}

export function isDuplicate(error: unknown): boolean {
  return error instanceof UniqueConstraintError;
}
