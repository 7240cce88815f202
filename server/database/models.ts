import { DataTypes, Model, type CreationOptional, type InferAttributes, type InferCreationAttributes, type Sequelize } from "sequelize";
import type { Anchor } from "#core/marks/kind";
import type { FollowState, FollowUp } from "#core/scenarios/follow";
import type { OutcomeNote } from "#core/scenarios/note";
import type { Scenario } from "#core/scenarios/scenario";
import type { Formula } from "#core/series/formula";
import type { CalendarSpec } from "#core/time/calendar";
import type { RungOfSet } from "#core/time/rungs";

/** A row whose columns are its fields: all tables here are written by hand in the migrations. */
class Row<T extends Model> extends Model<InferAttributes<T>, InferCreationAttributes<T>> {}

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
  /** How it is made of other markets; none where it has bars of its own. */
  declare formula: CreationOptional<Formula | null>;
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

export class MarkRow extends Row<MarkRow> {
  declare id: string;
  declare marketId: string;
  declare rung: string;
  declare kind: string;
  declare anchors: Anchor[];
  declare props: Record<string, unknown>;
  declare note: string;
  declare author: string;
  declare version: number;
  declare removed: boolean;
}

export class StepRow extends Row<StepRow> {
  declare id: string;
  declare marketId: string;
  declare markId: string;
  declare accountId: string;
  declare step: Record<string, unknown>;
  declare wallTime: number;
  declare marketTime: number;
}

export class ScenarioRow extends Row<ScenarioRow> {
  declare id: string;
  declare marketId: string;
  declare accountId: string;
  declare plan: Scenario;
  declare version: number;
  declare removed: boolean;
}

export class Draft extends Row<Draft> {
  declare id: string;
  declare accountId: string;
  declare title: string;
  declare body: string;
  declare sections: { market: string; rung: string; scenarios: string[] }[];
  declare version: number;
  declare published: number | null;
  declare updatedAt: number;
}

export class Edition extends Row<Edition> {
  declare number: number;
  declare draftId: string;
  declare title: string;
  /** The frozen content as canonical JSON (RFC 8785). */
  declare canonical: string;
  declare sha256: string;
  declare previousSha256: string;
  declare publishedAt: number;
}

export class FollowedPlan extends Row<FollowedPlan> {
  declare edition: number;
  declare scenarioId: string;
  declare marketId: string;
  declare plan: Scenario;
  declare state: FollowState;
  /** Market time from which bars count, and up to which they have been counted. */
  declare since: number;
  declare lastTime: number;
  declare done: boolean;
}

export class FollowUpRow extends Row<FollowUpRow> {
  declare edition: number;
  declare scenarioId: string;
  declare sequence: number;
  declare event: FollowUp;
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

export class ClockRow extends Row<ClockRow> {
  declare id: number;
  /** Market time, ms UTC. */
  declare now: number;
  /** Market minutes in a second; 0 stands still. */
  declare speed: number;
  declare wallTime: number;
}

// A definition belongs to one column: the mapper writes the column's name into it.
const text = (length: number) => ({ type: DataTypes.STRING(length), allowNull: false });
const id = () => ({ ...text(36), primaryKey: true });
/** Milliseconds fit a double exactly, so times are stored as such rather than as strings of BIGINT. */
const moment = () => ({ type: DataTypes.DOUBLE, allowNull: false });
const whole = () => ({ type: DataTypes.INTEGER, allowNull: false });
const real = () => ({ type: DataTypes.DOUBLE, allowNull: false });
const flag = () => ({ type: DataTypes.BOOLEAN, allowNull: false });
const bytes = () => ({ type: DataTypes.BLOB("long"), allowNull: true });
const maybeMoment = () => ({ type: DataTypes.DOUBLE, allowNull: true });
const json = () => ({ type: DataTypes.JSON, allowNull: false });

/** Binds every model to a connection. */
export function bindModels(sequelize: Sequelize): void {
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
      formula: { type: DataTypes.JSON, allowNull: true },
    },
    table("markets"),
  );
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
  RungSetRow.init(
    { id: id(), accountId: text(36), name: text(60), rungs: json(), walk: text(4), chosen: flag(), version: whole() },
    table("rung_sets"),
  );
  MarkRow.init(
    {
      id: id(),
      marketId: text(60),
      rung: text(10),
      kind: text(30),
      anchors: json(),
      props: json(),
      note: text(2000),
      author: text(36),
      version: whole(),
      removed: flag(),
    },
    table("marks"),
  );
  StepRow.init(
    { id: id(), marketId: text(60), markId: text(36), accountId: text(36), step: json(), wallTime: moment(), marketTime: moment() },
    table("mark_steps"),
  );
  ScenarioRow.init(
    { id: id(), marketId: text(60), accountId: text(36), plan: json(), version: whole(), removed: flag() },
    table("scenarios"),
  );
  Draft.init(
    {
      id: id(),
      accountId: text(36),
      title: text(200),
      body: { type: DataTypes.TEXT, allowNull: false },
      sections: json(),
      version: whole(),
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
      canonical: { type: DataTypes.TEXT("long"), allowNull: false },
      sha256: text(64),
      previousSha256: text(64),
      publishedAt: moment(),
    },
    table("editions"),
  );
  FollowedPlan.init(
    {
      edition: { ...whole(), primaryKey: true },
      scenarioId: { ...text(36), primaryKey: true },
      marketId: text(60),
      plan: json(),
      state: json(),
      since: moment(),
      lastTime: moment(),
      done: flag(),
    },
    table("followed_plans"),
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
  ClockRow.init({ id: { ...whole(), primaryKey: true }, now: moment(), speed: real(), wallTime: moment() }, table("market_clock"));
}
