import type { Role } from "#core/readers/roles";
import type { CreationOptional, Sequelize } from "sequelize";
import type { EditionKind } from "#core/edition/blocks";
import type { EditionPart } from "#core/edition/parts";
import type { Payment } from "#core/readers/membership";
import type { RungOfSet } from "#core/time/rungs";
import { bytes, flag, id, json, key, maybeJson, maybeMoment, moment, Row, text, whole } from "./columns.ts";
import { sealRows } from "../sealing.ts";

/** An owner is an analyst who also looks after people and reads what everybody did. */
export type { Role };

/** A second factor: its secret (base32, encrypted), and digests of the recovery codes that are left. */
export interface SecondFactor {
  secret: string;
  /** The time step of the code used last: no code is taken twice. */
  lastStep: number;
  recovery: string[];
}

export class Account extends Row<Account> {
  declare id: string;
  declare email: string;
  declare name: string;
  declare role: Role;
  declare passwordHash: string;
  declare createdAt: number;
  /** When it was closed; none while it is open. */
  declare closedAt: CreationOptional<number | null>;
  /** When its password was last changed. */
  declare passwordAt: CreationOptional<number | null>;
  /** Id of the plan a reader is on. */
  declare plan: CreationOptional<string>;
  /** When its mail address was confirmed. */
  declare confirmedAt: CreationOptional<number | null>;
  /** Its second factor, sealed; none while there is none. */
  declare totp: CreationOptional<SecondFactor | null>;
}

/** What readers on it are shown, and when. */
export class PlanRow extends Row<PlanRow> {
  declare id: string;
  declare name: string;
  declare parts: EditionPart[];
  declare kinds: EditionKind[];
  /** Hours after an edition was published. */
  declare wait: number;
  declare version: number;
  /** Whether anybody may join on it. */
  declare open: CreationOptional<boolean>;
  /** What it costs, in words; empty where it is not for sale. */
  declare price: CreationOptional<string>;
  /** That the desk itself wrote this row (`sealing.ts`). */
  declare seal: CreationOptional<string>;
}

/** What a reader pays for, as the payment house said it last. */
export class MembershipRow extends Row<MembershipRow> {
  declare accountId: string;
  declare plan: string;
  declare before: string;
  declare state: Payment;
  declare until: number;
  declare at: number;
}

/** A message of the payment house that was taken. */
export class PaymentRow extends Row<PaymentRow> {
  declare id: string;
  declare accountId: string;
  declare kind: Payment;
  declare at: number;
}

/** The public half of a key that a device of somebody keeps (WebAuthn). */
export class PasskeyRow extends Row<PasskeyRow> {
  declare id: string;
  declare accountId: string;
  declare publicKey: Buffer;
  /** How often it was used, as its device counts; 0 of devices that do not. */
  declare counter: number;
  /** The browser it was made in. */
  declare name: string;
  declare createdAt: number;
  declare usedAt: CreationOptional<number | null>;
}

export class Session extends Row<Session> {
  /** SHA-256 of the cookie's token: the table alone opens no door. */
  declare id: string;
  declare accountId: string;
  declare expiresAt: number;
  declare createdAt: number;
  /** When it was last used, to the minute. */
  declare seenAt: number;
  /** What the browser called itself. */
  declare device: string;
}

/** Failed sign-ins in a row, and until when the next has to wait. */
export class SignInCount extends Row<SignInCount> {
  declare subject: string;
  declare failures: number;
  declare waitUntil: number;
  declare changedAt: number;
  /** The try that was counted last. */
  declare triedBy: string;
}

/** A device an account has been signed in on before. */
export class KnownDevice extends Row<KnownDevice> {
  /** SHA-256 of the cookie's token. */
  declare id: string;
  declare accountId: string;
  declare createdAt: number;
  declare seenAt: number;
}

/** One thing somebody did, and what stood there before. */
export class AuditRow extends Row<AuditRow> {
  declare number: CreationOptional<number>;
  declare at: number;
  /** Empty for the desk itself, and for people without an account. */
  declare accountId: string;
  declare who: string;
  declare what: string;
  declare subject: string;
  declare detail: Record<string, unknown> | null;
}

/** A named, ordered set of rungs of one analyst. */
export class RungSetRow extends Row<RungSetRow> {
  declare id: string;
  declare accountId: string;
  declare name: string;
  declare rungs: RungOfSet[];
  declare walk: "down" | "up";
  declare chosen: boolean;
  declare version: number;
}

/** Binds the tables of people. */
export function bindAccounts(sequelize: Sequelize): void {
  const table = (tableName: string) => ({ sequelize, tableName, timestamps: false });
  Account.init(
    {
      id: id(),
      email: text(254),
      name: text(100),
      role: text(12),
      passwordHash: text(200),
      createdAt: moment(),
      closedAt: maybeMoment(),
      passwordAt: maybeMoment(),
      plan: { ...text(36), defaultValue: "member" },
      confirmedAt: maybeMoment(),
      totp: maybeJson(),
    },
    table("accounts"),
  );
  PlanRow.init(
    {
      id: id(),
      name: text(60),
      parts: json(),
      kinds: json(),
      wait: whole(),
      version: whole(),
      open: { ...flag(), defaultValue: false },
      price: { ...text(60), defaultValue: "" },
      seal: { ...text(120), defaultValue: "" },
    },
    table("plans"),
  );
  sealRows(PlanRow, ["id", "name", "parts", "kinds", "wait", "version", "open", "price"]);
  MembershipRow.init(
    {
      accountId: key(36),
      plan: text(36),
      before: text(36),
      state: text(10),
      until: moment(),
      at: moment(),
    },
    table("memberships"),
  );
  PaymentRow.init({ id: key(100), accountId: text(36), kind: text(10), at: moment() }, table("payments"));
  PasskeyRow.init(
    {
      id: key(700),
      accountId: text(36),
      publicKey: bytes(),
      counter: moment(),
      name: text(160),
      createdAt: moment(),
      usedAt: maybeMoment(),
    },
    table("passkeys"),
  );
  Session.init(
    {
      id: { ...text(64), primaryKey: true },
      accountId: text(36),
      expiresAt: moment(),
      createdAt: moment(),
      seenAt: moment(),
      device: text(160),
    },
    table("sessions"),
  );
  SignInCount.init(
    { subject: key(64), failures: whole(), waitUntil: moment(), changedAt: moment(), triedBy: text(36) },
    table("sign_in_counts"),
  );
  KnownDevice.init({ id: key(64), accountId: text(36), createdAt: moment(), seenAt: moment() }, table("known_devices"));
  AuditRow.init(
    {
      number: { ...whole(), primaryKey: true, autoIncrement: true },
      at: moment(),
      accountId: text(36),
      who: text(100),
      what: text(40),
      subject: text(200),
      detail: maybeJson(),
    },
    table("audit_log"),
  );
  RungSetRow.init(
    { id: id(), accountId: text(36), name: text(60), rungs: json(), walk: text(4), chosen: flag(), version: whole() },
    table("rung_sets"),
  );
}
