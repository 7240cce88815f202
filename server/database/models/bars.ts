import { DataTypes, type CreationOptional, type Sequelize } from "sequelize";
import type { Ties } from "#core/events/touches";
import type { Formula } from "#core/series/formula";
import type { CalendarSpec } from "#core/time/calendar";
import { bytes, id, json, maybeMoment, moment, real, Row, text, whole } from "./columns.ts";
import { sealRows } from "../sealing.ts";

export class Market extends Row<Market> {
  declare id: string;
  declare name: string;
  declare kind: string;
  declare tick: number;
  declare pip: number;
  declare pipName: string;
  declare decimals: number;
  declare calendar: CalendarSpec;
  /** Grows with every change of its bars. */
  declare revision: CreationOptional<number>;
  /** Grows when bars that had been closed are changed; part of every address under which bars are kept for ever. */
  declare history: CreationOptional<number>;
  /** Grows with every change of its marks. */
  declare marked: CreationOptional<number>;
  /** Up to when its watchers have been told; none while nobody has watched it. */
  declare toldThrough: CreationOptional<number | null>;
  /** How it is made of other markets; none where it has bars of its own. */
  declare formula: CreationOptional<Formula | null>;
  /** Which news touch it; those of its legs come on top. */
  declare ties: CreationOptional<Ties | null>;
  /** That the desk itself wrote this row (`sealing.ts`). */
  declare seal: CreationOptional<string>;
}

export class BarChunk extends Row<BarChunk> {
  declare marketId: string;
  /** "live" bars are history; "tape" is what the simulated feed has yet to play. */
  declare shelf: "live" | "tape";
  declare base: string;
  declare startTime: number;
  declare endTime: number;
  declare length: number;
  declare data: Buffer;
}

export class BarImport extends Row<BarImport> {
  declare id: string;
  declare marketId: string;
  declare base: string;
  declare sha256: string;
  declare fileName: string;
  declare report: Record<string, unknown>;
  declare accountId: string;
  declare createdAt: number;
  /** 1 while its bars stand, null once undone. */
  declare standing: 1 | null;
  declare undoneAt: CreationOptional<number | null>;
  /** First and last time of the file's bars. */
  declare firstTime: number | null;
  declare lastTime: number | null;
  /** What undoes it: pairs of first and last times of added stretches, and the bars it replaced. */
  declare addedRuns: Buffer | null;
  declare replaced: Buffer | null;
}

/** An import on its way, by the id of the file that waits for it. */
export class ImportJobRow extends Row<ImportJobRow> {
  declare id: string;
  declare accountId: string;
  declare fileName: string;
  declare state: "working" | "stored" | "refused";
  declare step: "reading" | "storing" | "telling";
  /** How much of the step is done, 0 to 1. */
  declare share: number;
  declare report: CreationOptional<object | null>;
  declare failure: CreationOptional<{ code: string; sentence: string; details: object } | null>;
  declare createdAt: number;
  /** When its process last said that it works on it (ms UTC). */
  declare aliveAt: number;
}

/** A change of bars that had been closed. */
export class Restatement extends Row<Restatement> {
  declare id: string;
  declare marketId: string;
  declare base: string;
  declare cause: "import" | "undo";
  declare importId: string;
  declare fromTime: number;
  declare toTime: number;
  /** How many bars were new, replaced or removed. */
  declare bars: number;
  declare accountId: string;
  declare createdAt: number;
}

export class ClockRow extends Row<ClockRow> {
  declare id: number;
  /** Market time, ms UTC. */
  declare now: number;
  /** Market minutes in a second; 0 stands still. */
  declare speed: number;
  declare wallTime: number;
}

/** Binds the tables of markets and their bars. */
export function bindBars(sequelize: Sequelize): void {
  const table = (tableName: string) => ({ sequelize, tableName, timestamps: false });
  Market.init(
    {
      id: { ...text(60), primaryKey: true },
      name: text(80),
      kind: text(20),
      tick: real(),
      pip: real(),
      pipName: text(12),
      decimals: whole(),
      calendar: json(),
      revision: { ...whole(), defaultValue: 1 },
      history: { ...whole(), defaultValue: 1 },
      marked: { ...whole(), defaultValue: 0 },
      toldThrough: { type: DataTypes.DOUBLE, allowNull: true },
      formula: { type: DataTypes.JSON, allowNull: true },
      ties: { type: DataTypes.JSON, allowNull: true },
      seal: { ...text(120), defaultValue: "" },
    },
    table("markets"),
  );
  sealRows(Market, ["id", "name", "kind", "tick", "pip", "pipName", "decimals", "calendar", "formula", "ties"]);
  BarChunk.init(
    {
      marketId: { ...text(60), primaryKey: true },
      shelf: { ...text(4), primaryKey: true },
      base: { ...text(10), primaryKey: true },
      startTime: { ...moment(), primaryKey: true },
      endTime: moment(),
      length: whole(),
      data: { type: DataTypes.BLOB("long"), allowNull: false },
    },
    table("bar_chunks"),
  );
  BarImport.init(
    {
      id: id(),
      marketId: text(60),
      base: text(10),
      sha256: text(64),
      fileName: text(200),
      report: json(),
      accountId: text(36),
      createdAt: moment(),
      standing: { type: DataTypes.TINYINT, allowNull: true },
      undoneAt: maybeMoment(),
      firstTime: maybeMoment(),
      lastTime: maybeMoment(),
      addedRuns: bytes(),
      replaced: bytes(),
    },
    table("bar_imports"),
  );
  ImportJobRow.init(
    {
      id: id(),
      accountId: text(36),
      fileName: text(200),
      ...{ state: text(10), step: text(10), share: real() },
      report: { type: DataTypes.JSON, allowNull: true },
      failure: { type: DataTypes.JSON, allowNull: true },
      ...{ createdAt: moment(), aliveAt: moment() },
    },
    table("import_jobs"),
  );
  Restatement.init(
    {
      id: id(),
      marketId: text(60),
      base: text(10),
      cause: text(10),
      importId: text(36),
      fromTime: moment(),
      toTime: moment(),
      bars: whole(),
      accountId: text(36),
      createdAt: moment(),
    },
    table("restatements"),
  );
  ClockRow.init(
    { id: { ...whole(), primaryKey: true }, now: moment(), speed: real(), wallTime: moment() },
    table("market_clock"),
  );
}
