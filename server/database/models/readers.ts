import { DataTypes, type CreationOptional, type Sequelize } from "sequelize";
import type { ReaderChoices } from "#core/readers/choices";
import { json, key, maybeJson, maybeMoment, moment, Row, text, whole } from "./columns.ts";

/** A market an edition speaks of with a chart. */
export class EditionMarket extends Row<EditionMarket> {
  declare edition: number;
  declare marketId: string;
}

/** Words of an edition, by the parts of a plan that show them. */
export class EditionWords extends Row<EditionWords> {
  declare edition: number;
  declare see: string;
  declare words: string;
}

/** What a reader has chosen. */
export class ReaderChoicesRow extends Row<ReaderChoicesRow> {
  declare accountId: string;
  declare choices: ReaderChoices;
}

/** What a token is for. */
export type TokenPurpose = "invite" | "confirm" | "reset" | "factor" | "feed" | "bars" | "api";

/** A token that stands for somebody, or for something that may be done once. */
export class TokenRow extends Row<TokenRow> {
  /** SHA-256 of the token: the table alone opens no door. */
  declare id: string;
  declare purpose: TokenPurpose;
  declare accountId: string | null;
  declare data: Record<string, unknown> | null;
  declare createdAt: number;
  declare expiresAt: number | null;
  declare usedAt: CreationOptional<number | null>;
}

/** A message on its way, or something that is still to become one for each reader. */
export class OutboxRow extends Row<OutboxRow> {
  declare number: CreationOptional<number>;
  /** What it says to whom: the same is never sent twice. */
  declare name: string;
  /** "edition" and "events" become messages; "mail" is one. */
  declare kind: "edition" | "events" | "mail";
  declare accountId: string | null;
  declare what: Record<string, unknown>;
  declare state: "waiting" | "sent" | "dead" | "dropped";
  declare attempts: number;
  declare dueAt: number;
  declare leasedUntil: number;
  declare leasedBy: string;
  declare createdAt: number;
  declare sentAt: CreationOptional<number | null>;
  declare fault: string;
}

/** Binds the tables of what readers find, choose and are sent. */
export function bindReaders(sequelize: Sequelize): void {
  const table = (tableName: string) => ({ sequelize, tableName, timestamps: false });
  EditionMarket.init({ edition: { ...whole(), primaryKey: true }, marketId: key(60) }, table("edition_markets"));
  EditionWords.init(
    {
      edition: { ...whole(), primaryKey: true },
      see: key(80),
      words: { type: DataTypes.TEXT("medium"), allowNull: false },
    },
    table("edition_words"),
  );
  ReaderChoicesRow.init({ accountId: key(36), choices: json() }, table("reader_choices"));
  TokenRow.init(
    {
      id: key(64),
      purpose: text(16),
      accountId: { type: DataTypes.STRING(36), allowNull: true },
      data: maybeJson(),
      createdAt: moment(),
      expiresAt: maybeMoment(),
      usedAt: maybeMoment(),
    },
    table("tokens"),
  );
  OutboxRow.init(
    {
      number: { type: DataTypes.BIGINT, primaryKey: true, autoIncrement: true },
      name: text(190),
      kind: text(16),
      accountId: { type: DataTypes.STRING(36), allowNull: true },
      what: json(),
      state: text(8),
      attempts: whole(),
      dueAt: moment(),
      leasedUntil: moment(),
      leasedBy: text(36),
      createdAt: moment(),
      sentAt: maybeMoment(),
      fault: text(500),
    },
    table("outbox"),
  );
}
