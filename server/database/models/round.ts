import { DataTypes, type CreationOptional, type Sequelize } from "sequelize";
import type { AlertEvent, AlertTerms } from "#core/alerts/alert";
import type { CalendarEvent } from "#core/events/event";
import type { Horizons } from "#core/finding/horizon";
import type { Setup } from "#core/round/setup";
import type { Standing } from "#core/round/standing";
import type { Verdict } from "#core/round/verdict";
import { flag, id, json, key, maybeJson, maybeMoment, moment, Row, text, whole } from "./columns.ts";
import { sealRows } from "../sealing.ts";

/** What a board shows of a market, kept until the next bar of one of its rungs closes. */
export class BoardStanding extends Row<BoardStanding> {
  declare marketId: string;
  declare params: string;
  declare history: number;
  declare marked: number;
  declare validUntil: number;
  declare standing: Standing;
}

export class MarketList extends Row<MarketList> {
  declare id: string;
  declare accountId: string;
  declare name: string;
  /** Ids in the order they are walked. */
  declare markets: string[];
  /** Rarely looked at: its markets leave the list of all. */
  declare rare: boolean;
}

export class RoundRow extends Row<RoundRow> {
  declare id: string;
  declare accountId: string;
  /** Empty for the list of all markets. */
  declare listId: string;
  declare kind: "round" | "evening";
  /** By the market's clock, like every time of a round. */
  declare startedAt: number;
  declare endedAt: number | null;
  declare summary: string;
  /** Stops it had when it was ended, and how many of them were looked at. */
  declare stops: number;
  declare looked: number;
}

export class VerdictRow extends Row<VerdictRow> {
  declare roundId: string;
  declare marketId: string;
  declare rung: string;
  declare verdict: Verdict;
  declare remark: string;
  declare saidAt: number;
  /** Close of the unfinished bar it was said on: after it, it is asked again. */
  declare asksAt: number | null;
}

export class LookRow extends Row<LookRow> {
  declare accountId: string;
  declare marketId: string;
  declare rung: string;
  declare lookedAt: number;
}

export class SetupRow extends Row<SetupRow> {
  declare id: string;
  declare accountId: string;
  declare marketId: string;
  declare rung: string;
  declare setup: Setup;
  declare notedAt: number;
}

export class HorizonRow extends Row<HorizonRow> {
  declare accountId: string;
  declare setId: string;
  declare horizons: Horizons;
}

export class EventRow extends Row<EventRow> {
  declare id: string;
  declare uid: string;
  declare at: number;
  declare event: CalendarEvent;
  /** Where it came from: "by hand", a file's name. */
  declare source: string;
}

export class AlertRow extends Row<AlertRow> {
  declare id: string;
  declare accountId: string;
  declare marketId: string;
  declare terms: AlertTerms;
  declare createdAt: number;
  /** That the desk itself wrote this row (`sealing.ts`). */
  declare seal: CreationOptional<string>;
}

export class FiringRow extends Row<FiringRow> {
  declare number: CreationOptional<number>;
  declare alertId: string;
  declare event: string;
  declare firedAt: number;
  /** What it saw, in numbers; early ones have a sentence instead. */
  declare detail: AlertEvent | null;
  declare says: string | null;
  declare seen: boolean;
  /** That the desk itself wrote this row (`sealing.ts`). */
  declare seal: CreationOptional<string>;
}

/** Binds the tables of the round: lists, looks and verdicts, events and alerts. */
export function bindRound(sequelize: Sequelize): void {
  const table = (tableName: string) => ({ sequelize, tableName, timestamps: false });
  BoardStanding.init(
    { marketId: key(60), params: key(40), history: whole(), marked: whole(), validUntil: moment(), standing: json() },
    table("market_boards"),
  );
  MarketList.init(
    { id: id(), accountId: text(36), name: text(60), markets: json(), rare: flag() },
    table("market_lists"),
  );
  RoundRow.init(
    {
      id: id(),
      accountId: text(36),
      listId: text(36),
      kind: text(10),
      startedAt: moment(),
      endedAt: maybeMoment(),
      summary: text(4000),
      stops: whole(),
      looked: whole(),
    },
    table("rounds"),
  );
  VerdictRow.init(
    {
      roundId: key(36),
      marketId: key(60),
      rung: text(10),
      verdict: text(10),
      remark: text(500),
      saidAt: moment(),
      asksAt: maybeMoment(),
    },
    table("verdicts"),
  );
  LookRow.init({ accountId: key(36), marketId: key(60), rung: key(10), lookedAt: moment() }, table("looks"));
  SetupRow.init(
    { id: id(), accountId: text(36), marketId: text(60), rung: text(10), setup: json(), notedAt: moment() },
    table("setups"),
  );
  HorizonRow.init({ accountId: key(36), setId: key(36), horizons: json() }, table("horizons"));
  EventRow.init({ id: id(), uid: text(250), at: moment(), event: json(), source: text(200) }, table("calendar_events"));
  AlertRow.init(
    {
      id: id(),
      accountId: text(36),
      marketId: text(60),
      terms: json(),
      createdAt: moment(),
      seal: { ...text(120), defaultValue: "" },
    },
    table("alerts"),
  );
  sealRows(AlertRow, ["id", "accountId", "marketId", "terms", "createdAt"]);
  FiringRow.init(
    {
      number: { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true },
      alertId: text(36),
      event: text(120),
      firedAt: moment(),
      detail: maybeJson(),
      says: { type: DataTypes.STRING(500), allowNull: true },
      seen: flag(),
      seal: { ...text(120), defaultValue: "" },
    },
    table("firings"),
  );
  sealRows(FiringRow, ["alertId", "event", "firedAt", "detail", "says"]);
}
