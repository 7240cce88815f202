import { Op } from "sequelize";
import { AuditRow } from "../database/models.ts";
import { currentActor, type Actor } from "./actor.ts";

/** What is written down, by area: what happened there, in words. */
export const ACTS = {
  "sign-in": "signed in",
  "sign-in failed": "failed to sign in",
  "sign-out": "signed out",
  "sessions ended": "ended sessions",
  "access ended": "ended every way into the account",
  "password changed": "changed the password",
  "account made": "made an account",
  invited: "invited somebody",
  "question decided": "decided on a reader's question",
  "picture shared": "shared a picture with anybody",
  "passkey made": "made a passkey",
  "passkey ended": "ended a passkey",
  "membership changed": "paid, or did not",
  "mail ended": "has mail that came back, or was unwanted",
  joined: "joined",
  confirmed: "confirmed a mail address",
  "reset asked": "asked for a new password",
  "factor on": "set up a second factor",
  "factor off": "gave up the second factor",
  "data taken": "took a copy of the own data",
  "account removed": "removed the own account",
  "plan made": "made a plan",
  "reading step": "read a draft before it went out",
  "desk decided": "decided something for the desk",
  "going out": "said when a draft goes out",
  "plan changed": "changed a plan",
  "put on a plan": "put a reader on a plan",
  "account closed": "closed an account",
  "account opened": "opened an account again",
  published: "published",
  imported: "imported bars",
  "import undone": "took an import back",
  "market made": "made a market",
  "market changed": "changed a market",
  "market removed": "removed a market",
  "event made": "entered an event",
  "event changed": "changed an event",
  "event removed": "removed an event",
  "events imported": "imported events",
  "draft changed": "changed a draft",
  "mark changed": "changed a colleague's mark",
  "mark removed": "removed a colleague's mark",
  "scenario changed": "changed a colleague's scenario",
} as const;
export type Act = keyof typeof ACTS;

interface Entry {
  what: Act;
  /** What it was done to, as a person would name it. */
  subject: string;
  /** What stood there before, and what else is worth knowing. */
  detail?: Record<string, unknown>;
  /** Who did it, where that is not whoever acts here. */
  by?: Actor;
  /** Written down once in so many milliseconds of one person and subject: for what is saved as it is typed. */
  once?: number;
}

/** Most letters of what is kept with an entry; longer ones are told to have been so long. */
const LONGEST = 20_000;

/** Writes down what was done: within a transaction together with it, or not at all. */
export async function audit({ what, subject, detail, by = currentActor(), once }: Entry): Promise<void> {
  const accountId = by?.id ?? "";
  const short = subject.slice(0, 200);
  if (
    once !== undefined &&
    (await AuditRow.findOne({
      where: { what, subject: short, accountId, at: { [Op.gt]: Date.now() - once } },
      attributes: ["number"],
    }))
  )
    return;
  const kept =
    detail === undefined
      ? null
      : JSON.stringify(detail).length > LONGEST
        ? { long: JSON.stringify(detail).length }
        : detail;
  await AuditRow.create({
    at: Date.now(),
    accountId,
    who: (by?.name ?? "the desk").slice(0, 100),
    what,
    subject: short,
    detail: kept,
  });
}

export interface AuditLine {
  number: number;
  at: number;
  who: string;
  what: string;
  subject: string;
  detail: Record<string, unknown> | null;
}

const PAGE = 100;

/** What was done, the newest first: of one kind or of all, before a number. */
export async function auditLines({
  what,
  before,
}: {
  what?: Act;
  before?: number;
}): Promise<{ lines: AuditLine[]; more: boolean }> {
  const rows = await AuditRow.findAll({
    where: { ...(what ? { what } : {}), ...(before === undefined ? {} : { number: { [Op.lt]: before } }) },
    order: [["number", "DESC"]],
    limit: PAGE + 1,
    raw: true,
  });
  const lines = rows.slice(0, PAGE).map(({ number, at, who, what: act, subject, detail }) => ({
    number,
    at,
    who,
    what: ACTS[act as Act] ?? act,
    subject,
    detail: readDetail(detail),
  }));
  return { lines, more: rows.length > PAGE };
}

function readDetail(detail: unknown): Record<string, unknown> | null {
  return typeof detail === "string"
    ? (JSON.parse(detail) as Record<string, unknown>)
    : (detail as Record<string, unknown> | null);
}
