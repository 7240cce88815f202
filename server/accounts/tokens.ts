import { randomBytes } from "node:crypto";
import { Op, type Transaction } from "sequelize";
import { transact } from "../database/connection.ts";
import { TokenRow, type TokenPurpose } from "../database/models.ts";
import { Failure } from "../failure.ts";
import { digest } from "./sessions.ts";

interface NewToken {
  purpose: TokenPurpose;
  accountId: string | null;
  data?: Record<string, unknown>;
  /** Milliseconds it may be used for; for ever where it is not said. */
  lasts?: number;
}

/** Makes a token, and says it this once: stored is its digest alone. */
export async function issueToken({ purpose, accountId, data, lasts }: NewToken): Promise<string> {
  const token = randomBytes(32).toString("base64url");
  const createdAt = Date.now();
  const expiresAt = lasts === undefined ? null : createdAt + lasts;
  await TokenRow.create({ id: digest(token), purpose, accountId, data: data ?? null, createdAt, expiresAt });
  return token;
}

const isForm = (token: string) => /^[A-Za-z0-9_-]{43}$/.test(token);

/** The row of a token that may be used now; `undefined` for any other text. */
export async function findToken(purpose: TokenPurpose, token: string, transaction?: Transaction) {
  if (!isForm(token)) return undefined;
  const row = await TokenRow.findOne({
    where: {
      ...{ id: digest(token), purpose, usedAt: null },
      expiresAt: { [Op.or]: [null, { [Op.gt]: Date.now() }] },
    },
    ...(transaction ? { transaction, lock: transaction.LOCK.UPDATE } : {}),
  });
  return row ?? undefined;
}

/** Uses a token up, together with what it is used for: of two that come at once one finds it used. */
export function spendToken<T>(
  purpose: TokenPurpose,
  token: string,
  work: (row: TokenRow, transaction: Transaction) => Promise<T>,
): Promise<T> {
  return transact(async (transaction) => {
    const row = await findToken(purpose, token, transaction);
    if (!row)
      throw new Failure("token", "This link was used already, or is too old.", {
        status: 410,
        kept: "Nothing was changed.",
        remedy: "Ask for a new one.",
      });
    const result = await work(row, transaction);
    await row.update({ usedAt: Date.now() }, { transaction });
    return result;
  });
}

/** Tokens of somebody for one purpose that can still be used, the newest first. */
export function tokensOf(accountId: string, purpose: TokenPurpose): Promise<TokenRow[]> {
  return TokenRow.findAll({ where: { accountId, purpose, usedAt: null }, order: [["createdAt", "DESC"]] });
}

/** Ends a token of somebody by its digest. */
export async function revokeToken(accountId: string, purpose: TokenPurpose, id: string): Promise<void> {
  await TokenRow.destroy({ where: { id: id.slice(0, 64), accountId, purpose } });
}
