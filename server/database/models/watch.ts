import { DataTypes, type Sequelize } from "sequelize";
import { flag, id, json, maybeMoment, moment, Row, text } from "./columns.ts";

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
}

/** Binds the table of watchers. */
export function bindWatch(sequelize: Sequelize): void {
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
    },
    { sequelize, tableName: "watchers", timestamps: false },
  );
}
