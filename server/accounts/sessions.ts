import { createHash, randomBytes } from "node:crypto";
import { Op, QueryTypes } from "sequelize";
import { choicesFrom, type ReaderChoices } from "#core/readers/choices";
import { audit } from "../audit/audit.ts";
import { theDatabase } from "../database/connection.ts";
import { Session, type Role } from "../database/models.ts";
import { browserName } from "./browserName.ts";
import { noteUse } from "./uses.ts";

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

/** Somebody who asks, with what their account says of them at that moment. */
export interface Caller extends Person {
  plan: string;
  /** How they read: what of their choices any page may depend on. */
  reading: Pick<ReaderChoices, "zone" | "larger">;
  /** Whether pages show them something of their own: what they asked, or a price they wait for. */
  hasOwn: boolean;
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

interface Asking extends Omit<Caller, "reading" | "hasOwn"> {
  choices: ReaderChoices | string | null;
  hasOwn: number;
  seenAt: number;
}

/** Asked of every request: one question, in the database's own words. */
const ASKING = `SELECT a.id, a.name, a.role, a.plan, c.choices, s.seenAt, (EXISTS (SELECT 1 FROM questions q
    WHERE q.accountId = a.id) OR EXISTS (SELECT 1 FROM alerts l WHERE l.accountId = a.id)) AS hasOwn
  FROM sessions s JOIN accounts a ON a.id = s.accountId LEFT JOIN reader_choices c ON c.accountId = a.id
  WHERE s.id = ? AND s.expiresAt >= ? AND s.seenAt >= ? AND a.closedAt IS NULL`;

/** The person a session token stands for. `looking` does not count as use: a page that only listens. */
export async function personOf(token: string | undefined, looking = false): Promise<Caller | undefined> {
  if (!token || token.length > 100) return undefined;
  const [session, now] = [digest(token), Date.now()];
  const found = await theDatabase().query<Asking>(ASKING, {
    ...{ replacements: [session, now, now - IDLE], type: QueryTypes.SELECT, plain: true },
  });
  if (!found) return undefined;
  const { id, name, role, plan, choices, hasOwn, seenAt } = found;
  const { zone, larger } = choicesFrom(choices);
  if (!looking && Number(seenAt) < now - SEEN) noteUse(session);
  return { id, name, role, plan, reading: { zone, larger }, hasOwn: Number(hasOwn) !== 0 };
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
