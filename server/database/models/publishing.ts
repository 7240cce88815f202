import type { Block, EditionKind } from "#core/edition/blocks";
import { DataTypes, type CreationOptional, type Sequelize } from "sequelize";
import type { StoredFollowUpEvent } from "#core/scenarios/events";
import type { OutcomeNote } from "#core/scenarios/note";
import { bytes, id, json, key, maybeJson, maybeMoment, moment, Row, text, whole } from "./columns.ts";

/** Somebody at the desk, as they were called then. */
export interface ByWhom {
  id: string;
  name: string;
}

/** A colleague's reading of a draft, in the version that was read. */
export interface Reading {
  state: "asked" | "approved" | "back";
  by: ByWhom;
  at: number;
  version: number;
  /** What is asked back. */
  words: string;
}

/** When a draft goes out by itself. */
export interface GoesOut {
  /** Market time, milliseconds. */
  at: number;
  /** The market whose open that is. */
  market?: string;
  by: ByWhom;
  version: number;
  /** What was held against it when this was decided. */
  knew: string[];
  /** Why it did not go out. */
  held?: string;
}

export class Draft extends Row<Draft> {
  declare id: string;
  declare accountId: string;
  declare title: string;
  declare kind: EditionKind;
  declare blocks: Block[];
  /** The edition it corrects or takes back. */
  declare corrects: { number: number; how: "correction" | "withdrawal" } | null;
  declare version: number;
  declare reading: CreationOptional<Reading | null>;
  declare goesOut: CreationOptional<GoesOut | null>;
  declare published: number | null;
  declare updatedAt: number;
}

export class Edition extends Row<Edition> {
  declare number: number;
  declare draftId: string;
  declare title: string;
  declare kind: EditionKind;
  /** The frozen content as canonical JSON (RFC 8785). */
  declare canonical: string;
  /** Its digest: the root of the tree over its leaves, or SHA-256 of a text from before there were any. */
  declare sha256: string;
  declare previousSha256: string;
  declare publishedAt: number;
  /** Number of the edition it corrects or takes back. */
  declare corrects: number | null;
  /** The market's time it is of; none until it was made one that is found. */
  declare marketTime: CreationOptional<number | null>;
  /** When the last of its markets has closed after it was published; none of editions from before that was kept. */
  declare closesAt: CreationOptional<number | null>;
}

export class FollowUpRow extends Row<FollowUpRow> {
  declare edition: number;
  declare scenarioId: string;
  declare sequence: number;
  declare event: StoredFollowUpEvent;
  declare createdAt: number;
}

/** What became known later about an outcome, which itself stays as it is. */
export class OutcomeNoteRow extends Row<OutcomeNoteRow> {
  declare edition: number;
  declare scenarioId: string;
  declare sequence: number;
  declare note: OutcomeNote;
  declare createdAt: number;
}

/** A picture of an edition, as it was published; which bytes they are. */
export class EditionPicture extends Row<EditionPicture> {
  declare edition: number;
  declare section: number;
  /** How it is laid out and what is in it, as `viewName` says it; empty for those from before there was a choice. */
  declare view: string;
  declare svgSha256: string;
  declare pngSha256: string;
}

/** Bytes that were published, by their digest. */
export class Artefact extends Row<Artefact> {
  declare sha256: string;
  declare bytes: Buffer;
}

/** What was said aloud at a step of a draft's walk, by its digest. */
export class Voice extends Row<Voice> {
  declare sha256: string;
  declare draftId: string;
  /** Its media type. */
  declare type: string;
  declare bytes: Buffer;
  declare storedAt: number;
}

/** `bars`: a full page of what calls were told; `restated`: told bars that were changed. */
export type EntryKind = "edition" | "followUp" | "note" | "bars" | "restated";

/** One link of the record's chain. */
export class RecordEntry extends Row<RecordEntry> {
  declare number: number;
  /** 1 of early entries, whose hash names the part; 2 of those that say nothing but its digest. */
  declare format: number;
  declare kind: EntryKind;
  declare edition: number;
  /** Empty and 0 for an edition. */
  declare scenarioId: string;
  declare sequence: number;
  /** Root of the part's leaves; of the first format SHA-256 of the part in canonical JSON. */
  declare digest: string;
  /** The part in salted leaves; none of an edition, whose text stands in its own row, and of the first format. */
  declare part: CreationOptional<string | null>;
  declare at: number;
  declare previousSha256: string;
  /** SHA-256 of the entry itself. */
  declare sha256: string;
  declare keyId: string;
  /** Ed25519 over `sha256`, base64. */
  declare signature: string;
}

/** Where the record ends; one row. */
export class RecordHead extends Row<RecordHead> {
  declare id: number;
  declare number: number;
  declare sha256: string;
}

/** What a desk has decided for itself, by name. */
export class DeskSetting extends Row<DeskSetting> {
  declare name: string;
  declare value: unknown;
  declare version: number;
}

/** Binds the tables of what is published and what became of it. */
export function bindPublishing(sequelize: Sequelize): void {
  const table = (tableName: string) => ({ sequelize, tableName, timestamps: false });
  Draft.init(
    {
      id: id(),
      accountId: text(36),
      title: text(200),
      kind: text(12),
      blocks: json(),
      corrects: { type: DataTypes.JSON, allowNull: true },
      version: whole(),
      reading: maybeJson(),
      goesOut: maybeJson(),
      published: { type: DataTypes.INTEGER, allowNull: true },
      updatedAt: moment(),
    },
    table("drafts"),
  );
  Edition.init(
    {
      number: { ...whole(), primaryKey: true },
      draftId: text(36),
      title: text(200),
      kind: text(12),
      canonical: { type: DataTypes.TEXT("long"), allowNull: false },
      sha256: text(64),
      previousSha256: text(64),
      publishedAt: moment(),
      corrects: { type: DataTypes.INTEGER, allowNull: true },
      marketTime: maybeMoment(),
      closesAt: maybeMoment(),
    },
    table("editions"),
  );
  FollowUpRow.init(
    {
      edition: { ...whole(), primaryKey: true },
      scenarioId: { ...text(36), primaryKey: true },
      sequence: { ...whole(), primaryKey: true },
      event: json(),
      createdAt: moment(),
    },
    table("follow_ups"),
  );
  OutcomeNoteRow.init(
    {
      edition: { ...whole(), primaryKey: true },
      scenarioId: { ...text(36), primaryKey: true },
      sequence: { ...whole(), primaryKey: true },
      note: json(),
      createdAt: moment(),
    },
    table("outcome_notes"),
  );
  EditionPicture.init(
    {
      edition: { ...whole(), primaryKey: true },
      section: { ...whole(), primaryKey: true },
      view: key(80),
      svgSha256: text(64),
      pngSha256: text(64),
    },
    table("edition_pictures"),
  );
  Voice.init({ sha256: key(64), draftId: id(), type: text(20), bytes: bytes(), storedAt: moment() }, table("voices"));
  Artefact.init({ sha256: key(64), bytes: bytes() }, table("artefacts"));
  DeskSetting.init({ name: key(40), value: json(), version: whole() }, table("desk_settings"));
  RecordEntry.init(
    {
      number: { ...whole(), primaryKey: true },
      format: whole(),
      kind: text(10) as never,
      edition: whole(),
      scenarioId: text(36),
      sequence: whole(),
      digest: text(64),
      part: { type: DataTypes.TEXT("long"), allowNull: true },
      at: moment(),
      previousSha256: text(64),
      sha256: text(64),
      keyId: text(16),
      signature: text(120),
    },
    table("record_entries"),
  );
  RecordHead.init({ id: { ...whole(), primaryKey: true }, number: whole(), sha256: text(64) }, table("record_head"));
}
