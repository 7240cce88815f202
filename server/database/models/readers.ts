import { DataTypes, type CreationOptional, type Sequelize } from "sequelize";
import type { EditionPart } from "#core/edition/parts";
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
export type TokenPurpose = "invite" | "confirm" | "reset" | "factor" | "feed" | "bars" | "api" | "passkey" | "share";

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

/** An address of a reader's own program. */
export class HookRow extends Row<HookRow> {
  declare id: string;
  declare accountId: string;
  declare address: string;
  /** What its messages are signed with, encrypted. */
  declare secret: string;
  declare createdAt: number;
}

/** A browser that is notified. */
export class PushRow extends Row<PushRow> {
  /** SHA-256 of the endpoint. */
  declare id: string;
  declare accountId: string;
  /** Where the browser's push service takes messages for it. */
  declare endpoint: string;
  /** The browser's public key and the secret it shares with us, encrypted. */
  declare secrets: string;
  /** As people call it. */
  declare name: string;
  declare createdAt: number;
}

/** A message on its way, or something that is still to become one for each reader. */
export class OutboxRow extends Row<OutboxRow> {
  declare number: CreationOptional<number>;
  /** What it says to whom: the same is never sent twice. */
  declare name: string;
  /** News become messages. */
  declare kind: NewsKind | MessageKind;
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

/** What is told: whoever does something with each is a table over these, and one left out does not compile. */
export const NEWS_KINDS = ["edition", "events", "digest", "alerts"] as const;
export type NewsKind = (typeof NEWS_KINDS)[number];

/** By which way a message goes. */
export const MESSAGE_KINDS = ["mail", "hook", "push"] as const;
export type MessageKind = (typeof MESSAGE_KINDS)[number];

/** What a reader says to an edition. */
export type Stance = "question" | "agree" | "disagree";

/** What a reader asks or holds against an edition, and what was answered. */
export class QuestionRow extends Row<QuestionRow> {
  declare id: string;
  declare edition: number;
  /** What of it is meant: the title of a call or a market's name; empty for the whole. */
  declare about: string;
  /** None once the reader has left. */
  declare accountId: string | null;
  declare stance: Stance;
  declare words: string;
  /** What the plan showed whoever asked: others are shown it only where theirs shows as much. */
  declare parts: EditionPart[];
  declare state: "waiting" | "shown" | "refused";
  declare answer: CreationOptional<string | null>;
  declare answeredBy: CreationOptional<string | null>;
  declare answeredAt: CreationOptional<number | null>;
  declare createdAt: number;
  /** Id of what it is a reply to; none of what begins a thread. */
  declare parentId: CreationOptional<string | null>;
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
  QuestionRow.init(
    {
      id: key(36),
      edition: whole(),
      about: text(200),
      accountId: { type: DataTypes.STRING(36), allowNull: true },
      stance: text(10),
      words: text(1000),
      parts: json(),
      state: text(8),
      answer: { type: DataTypes.TEXT, allowNull: true },
      answeredBy: { type: DataTypes.STRING(100), allowNull: true },
      answeredAt: maybeMoment(),
      createdAt: moment(),
      parentId: { type: DataTypes.STRING(36), allowNull: true },
    },
    table("questions"),
  );
  HookRow.init(
    { id: key(36), accountId: text(36), address: text(500), secret: text(200), createdAt: moment() },
    table("hooks"),
  );
  PushRow.init(
    {
      ...{ id: key(64), accountId: text(36), endpoint: text(1000), secrets: text(400), name: text(160) },
      createdAt: moment(),
    },
    table("push_devices"),
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
