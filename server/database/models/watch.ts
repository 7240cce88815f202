import { DataTypes, type CreationOptional, type Sequelize } from "sequelize";
import { bytes, flag, id, json, key, maybeJson, maybeMoment, moment, Row, text, whole } from "./columns.ts";
import { sealRows } from "../sealing.ts";

export type WatcherKind = "scenario" | "alert" | "setup";

/** Somebody who watches a market bar by bar: a published scenario, an alert, or a setup that was passed or missed. */
export class WatcherRow extends Row<WatcherRow> {
  declare id: string;
  declare kind: WatcherKind;
  /** What it is of: "edition/scenario", or the id of the alert or the setup. */
  declare subject: string;
  declare marketId: string;
  /** What it has made of the bars it was shown. */
  declare state: unknown;
  /** Bars that opened before never count. */
  declare since: number;
  /** Nothing can come any more. */
  declare done: boolean;
  /**
   * Up to when it has been told, where that is not how far its market has been told: it ended, or could not be
   * followed.
   */
  declare through: number | null;
  /** That the desk itself wrote this row (`sealing.ts`). */
  declare seal: CreationOptional<string>;
}

/**
 * A page of what the published calls on a market were told, bar by bar. Pages follow each other by their digests and
 * are signed: what calls came to is worked out from them and from nothing else that stands in the database.
 */
export class ToldPageRow extends Row<ToldPageRow> {
  declare marketId: string;
  declare number: number;
  /** Begins anew where bars of before were restated, or more must be known of them than was kept. */
  declare generation: number;
  /** Bars from before, which no call of the generation is told: averages and structure hang on them. */
  declare warm: boolean;
  /** What a generation's bars are read by; on its first page alone. */
  declare facts: unknown;
  declare bars: number;
  /** Closing of its last bar; none of a page without bars. */
  declare through: number | null;
  /** SHA-256 of its bars as they are stored, which finds them. */
  declare bytes: string;
  declare previousSha256: string;
  declare sha256: string;
  declare keyId: string;
  declare signature: string;
}

/** Bars of such pages, packed, by the digest of these bytes. */
export class ToldBarsRow extends Row<ToldBarsRow> {
  declare sha256: string;
  declare bytes: Buffer;
}

/** Binds the tables of watchers and of what they were told. */
export function bindWatch(sequelize: Sequelize): void {
  const table = (tableName: string) => ({ sequelize, tableName, timestamps: false });
  WatcherRow.init(
    {
      id: id(),
      kind: { type: DataTypes.STRING(10), allowNull: false },
      subject: text(60),
      marketId: text(60),
      state: json(),
      since: moment(),
      done: flag(),
      through: maybeMoment(),
      seal: { ...text(120), defaultValue: "" },
    },
    table("watchers"),
  );
  sealRows(WatcherRow, ["kind", "subject", "marketId", "state", "since", "done", "through"]);
  ToldPageRow.init(
    {
      marketId: key(60),
      number: { ...whole(), primaryKey: true },
      generation: whole(),
      warm: flag(),
      facts: maybeJson(),
      bars: whole(),
      through: maybeMoment(),
      bytes: text(64),
      previousSha256: text(64),
      sha256: text(64),
      keyId: text(16),
      signature: text(120),
    },
    table("told_pages"),
  );
  ToldBarsRow.init({ sha256: key(64), bytes: bytes() as never }, table("told_bars"));
}
