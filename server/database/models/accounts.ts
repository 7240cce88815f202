import type { Sequelize } from "sequelize";
import type { RungOfSet } from "#core/time/rungs";
import { flag, id, json, moment, Row, text, whole } from "./columns.ts";

export type Role = "analyst" | "subscriber";

export class Account extends Row<Account> {
  declare id: string;
  declare email: string;
  declare name: string;
  declare role: Role;
  declare passwordHash: string;
  declare createdAt: number;
}

export class Session extends Row<Session> {
  /** SHA-256 of the cookie's token: the table alone opens no door. */
  declare id: string;
  declare accountId: string;
  declare expiresAt: number;
}

export class SignInAttempt extends Row<SignInAttempt> {
  declare subject: string;
  declare windowStart: number;
  declare count: number;
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
    { id: id(), email: text(254), name: text(100), role: text(12), passwordHash: text(200), createdAt: moment() },
    table("accounts"),
  );
  Session.init({ id: { ...text(64), primaryKey: true }, accountId: text(36), expiresAt: moment() }, table("sessions"));
  SignInAttempt.init(
    { subject: { ...text(64), primaryKey: true }, windowStart: { ...moment(), primaryKey: true }, count: whole() },
    table("sign_in_attempts"),
  );
  RungSetRow.init(
    { id: id(), accountId: text(36), name: text(60), rungs: json(), walk: text(4), chosen: flag(), version: whole() },
    table("rung_sets"),
  );
}
