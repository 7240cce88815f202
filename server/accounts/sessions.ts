import { createHash, randomBytes } from "node:crypto";
import { Op } from "sequelize";
import { audit } from "../audit/audit.ts";
import { Account, Session, type Role } from "../database/models.ts";
import { browserName } from "./browserName.ts";

/** A session ends after a month whatever happens, and when it was not used for so long. */
const LIFE = 30 * 86_400_000;
const IDLE = 12 * 3_600_000;
/** How exactly it is known when a session was last used. */
const SEEN = 60_000;

export interface Person {
  id: string;
  name: string;
  role: Role;
}

export const digest = (text: string) => createHash("sha256").update(text).digest("hex");

/** Begins a session; returns the token for its cookie, of which only a digest is stored. */
export async function beginSession(accountId: string, device: string): Promise<string> {
  const token = randomBytes(32).toString("base64url");
  const now = Date.now();
  await Session.create({
    id: digest(token),
    accountId,
    expiresAt: now + LIFE,
    createdAt: now,
    seenAt: now,
    device: device.slice(0, 160),
  });
  await Session.destroy({ where: { [Op.or]: [{ expiresAt: { [Op.lt]: now } }, { seenAt: { [Op.lt]: now - IDLE } }] } });
  return token;
}

/** The person a session token stands for. `looking` does not count as use: a page that only listens. */
export async function personOf(token: string | undefined, looking = false): Promise<Person | undefined> {
  if (!token || token.length > 100) return undefined;
  // Asked of every request: one question.
  const session = await Session.findByPk(digest(token), {
    include: [{ model: Account, as: "account", attributes: ["id", "name", "role", "closedAt"] }],
    raw: true,
    nest: true,
  });
  const now = Date.now();
  if (!session || session.expiresAt < now || session.seenAt < now - IDLE) return undefined;
  const { account } = session;
  if (!account?.id || account.closedAt !== null) return undefined;
  if (!looking && session.seenAt < now - SEEN) await Session.update({ seenAt: now }, { where: { id: session.id } });
  return { id: account.id, name: account.name, role: account.role };
}

export interface SessionLine {
  id: string;
  /** The browser, as people call it. */
  device: string;
  createdAt: number;
  seenAt: number;
  /** Whether it is the one that asks. */
  own: boolean;
}

/** Where somebody is signed in, the newest use first. */
export async function sessionsOf(accountId: string, token: string | undefined): Promise<SessionLine[]> {
  const now = Date.now();
  const rows = await Session.findAll({
    where: { accountId, expiresAt: { [Op.gt]: now }, seenAt: { [Op.gt]: now - IDLE } },
    order: [["seenAt", "DESC"]],
    raw: true,
  });
  const own = token === undefined ? "" : digest(token);
  return rows.map(({ id, device, createdAt, seenAt }) => ({
    id,
    device: browserName(device),
    createdAt,
    seenAt,
    own: id === own,
  }));
}

/** Ends one of somebody's sessions, or all but the one that asks. Returns how many ended. */
export async function endSessions(
  accountId: string,
  which: { id: string } | { except: string | undefined },
): Promise<number> {
  const id = "id" in which ? which.id : { [Op.ne]: which.except === undefined ? "" : digest(which.except) };
  const ended = await Session.destroy({ where: { accountId, id } });
  if (ended > 0) await audit({ what: "sessions ended", subject: `${ended} of one's own` });
  return ended;
}

export async function signOut(token: string): Promise<void> {
  if ((await Session.destroy({ where: { id: digest(token) } })) > 0)
    await audit({ what: "sign-out", subject: "this device" });
}
