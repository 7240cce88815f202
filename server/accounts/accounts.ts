import { createHash, randomBytes, randomUUID } from "node:crypto";
import { Op } from "sequelize";
import type { NewAccountDto, SignInDto } from "#contracts/account";
import { isDuplicate, transact } from "../database/connection.ts";
import { Account, Session, SignInAttempt, type Role } from "../database/models.ts";
import { Failure } from "../failure.ts";
import { hashPassword, verifyPassword } from "./passwords.ts";

const SESSION_LIFE = 30 * 86_400_000;
const WINDOW = 15 * 60_000;
/** Failed sign-ins in a window before a mail address, or a caller, has to wait. */
const LIMITS = { email: 10, caller: 50 };

export interface Person {
  id: string;
  name: string;
  role: Role;
}

const digest = (text: string) => createHash("sha256").update(text).digest("hex");

export async function createAccount({ email, name, password }: NewAccountDto, role: Role): Promise<Person> {
  const id = randomUUID();
  const passwordHash = await hashPassword(password);
  try {
    await Account.create({ id, email: email.toLowerCase(), name, role, passwordHash, createdAt: Date.now() });
  } catch (error) {
    if (isDuplicate(error)) throw new Failure("taken", "There is already an account with this mail address.");
    throw error;
  }
  return { id, name, role };
}

/** Checks mail and password; returns the token for the cookie. Failures of one address or caller are counted. */
export async function signIn({ email, password }: SignInDto, caller: string): Promise<string> {
  const subjects = [
    { subject: digest(`email ${email.toLowerCase()}`), limit: LIMITS.email },
    { subject: digest(`caller ${caller}`), limit: LIMITS.caller },
  ];
  const windowStart = Math.floor(Date.now() / WINDOW) * WINDOW;
  for (const { subject, limit } of subjects) {
    const attempt = await SignInAttempt.findOne({ where: { subject, windowStart }, raw: true });
    if (attempt && attempt.count >= limit)
      throw new Failure("too-many", "Too many sign-ins failed.", {
        status: 429,
        remedy: "Wait a quarter of an hour and try again.",
      });
  }
  const account = await Account.findOne({ where: { email: email.toLowerCase() } });
  if (!(await verifyPassword(account?.passwordHash, password)) || !account) {
    await countFailures(subjects.map(({ subject }) => subject), windowStart);
    throw new Failure("sign-in", "Mail address and password do not go together.", { status: 401 });
  }
  const token = randomBytes(32).toString("base64url");
  await Session.create({ id: digest(token), accountId: account.id, expiresAt: Date.now() + SESSION_LIFE });
  await Session.destroy({ where: { expiresAt: { [Op.lt]: Date.now() } } });
  return token;
}

async function countFailures(subjects: string[], windowStart: number): Promise<void> {
  await transact(async (transaction) => {
    await SignInAttempt.destroy({ where: { windowStart: { [Op.lt]: windowStart } }, transaction });
    for (const subject of subjects)
      await SignInAttempt.sequelize!.query(
        "INSERT INTO sign_in_attempts (subject, windowStart, count) VALUES (:subject, :windowStart, 1) ON DUPLICATE KEY UPDATE count = count + 1",
        { replacements: { subject, windowStart }, transaction },
      );
  });
}

/** The person a session token stands for. */
export async function personOf(token: string | undefined): Promise<Person | undefined> {
  if (!token || token.length > 100) return undefined;
  const session = await Session.findByPk(digest(token), { raw: true });
  if (!session || session.expiresAt < Date.now()) return undefined;
  const account = await Account.findByPk(session.accountId, { raw: true });
  return account ? { id: account.id, name: account.name, role: account.role } : undefined;
}

export async function signOut(token: string): Promise<void> {
  await Session.destroy({ where: { id: digest(token) } });
}
