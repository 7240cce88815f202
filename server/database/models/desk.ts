import { DataTypes, type CreationOptional, type Sequelize } from "sequelize";
import type { CopyOf } from "#core/marks/equivalent";
import type { FoundFrom } from "#core/marks/foundFrom";
import type { RungSummary } from "#core/finding/reading";
import type { FindingParams } from "#core/finding/params";
import type { RungWorth } from "#core/measure/worth";
import type { Anchor, Mark } from "#core/marks/kind";
import type { ChosenStudy } from "#core/studies/chosen";
import type { Scenario } from "#core/scenarios/scenario";
import type { Written, WrittenTerms } from "#core/written/written";
import { flag, id, json, key, maybeJson, moment, Row, text, whole } from "./columns.ts";

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
  declare locked: boolean;
  declare hidden: boolean;
  declare copied: CopyOf | null;
  declare found: FoundFrom | null;
}

export class StepRow extends Row<StepRow> {
  declare id: string;
  declare marketId: string;
  declare markId: string;
  declare accountId: string;
  /** What it set or took away. */
  declare step: StoredStep;
  declare wallTime: number;
  /** The moment of the market the desk stood at when it was made. */
  declare marketTime: number;
  /** Steps of all markets in the order they were made. */
  declare number: CreationOptional<number>;
}

export interface StoredStep {
  step: "set" | "remove";
  mark: Pick<Mark, "id" | "kind" | "rung" | "anchors" | "props" | "note" | "locked" | "hidden" | "copied" | "found">;
}

/** Rows of before the second format hold the first: `writtenOf` reads both. */
export class ScenarioRow extends Row<ScenarioRow> {
  declare id: string;
  declare marketId: string;
  declare accountId: string;
  declare scenario: Written | Scenario;
  declare version: number;
  declare removed: boolean;
  /** Market clock at which it was first saved. */
  declare writtenAt: number;
}

/** A scenario as it was saved once. */
export class ScenarioStepRow extends Row<ScenarioStepRow> {
  declare number: CreationOptional<number>;
  declare scenarioId: string;
  declare marketId: string;
  declare scenario: Written | Scenario;
  declare removed: boolean;
  declare marketTime: number;
}

/** A sentence an analyst keeps to begin scenarios with. */
export class SentenceRow extends Row<SentenceRow> {
  declare id: string;
  declare accountId: string;
  declare name: string;
  declare terms: WrittenTerms;
}

/** What an analyst has on the desk; one row each. */
export class LayoutRow extends Row<LayoutRow> {
  declare accountId: string;
  declare layout: Record<string, unknown>;
}

/** Studies on the charts of a set of rungs (an empty name), and looks (an empty set). */
export class StudiesRow extends Row<StudiesRow> {
  declare accountId: string;
  declare setId: string;
  declare name: string;
  declare studies: ChosenStudy[];
}

/** What the machine looks for on an analyst's set of rungs; the set everybody has is the empty id. */
export class FindingParamsRow extends Row<FindingParamsRow> {
  declare accountId: string;
  declare setId: string;
  declare params: FindingParams;
}

/** What was found on a rung of a market, kept until its next bar closes. */
export class ReadingRow extends Row<ReadingRow> {
  declare marketId: string;
  declare rung: string;
  declare params: string;
  declare history: number;
  declare validUntil: number;
  /** The little of it that a board of many markets shows. */
  declare summary: RungSummary;
  declare reading: unknown;
}

/** What findings of a rung were worth, as of bar `until`. */
export class WorthRow extends Row<WorthRow> {
  declare marketId: string;
  declare rung: string;
  /** By which rules it was measured: what older ones measured is not read. */
  declare rules: number;
  declare history: number;
  declare until: number;
  declare worth: RungWorth;
}

/** Binds the tables of what analysts place and scenario. */
export function bindDesk(sequelize: Sequelize): void {
  const table = (tableName: string) => ({ sequelize, tableName, timestamps: false });
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
      locked: flag(),
      hidden: flag(),
      copied: maybeJson(),
      found: maybeJson(),
    },
    table("marks"),
  );
  StepRow.init(
    {
      id: id(),
      marketId: text(60),
      markId: text(36),
      accountId: text(36),
      step: json(),
      wallTime: moment(),
      marketTime: moment(),
      // Given by the database.
      number: { type: DataTypes.INTEGER, allowNull: true },
    },
    table("mark_steps"),
  );
  ScenarioStepRow.init(
    {
      number: { ...whole(), primaryKey: true, autoIncrement: true },
      scenarioId: text(36),
      marketId: text(60),
      scenario: json(),
      removed: flag(),
      marketTime: moment(),
    },
    table("scenario_steps"),
  );
  ScenarioRow.init(
    {
      id: id(),
      marketId: text(60),
      accountId: text(36),
      scenario: json(),
      version: whole(),
      removed: flag(),
      writtenAt: moment(),
    },
    table("scenarios"),
  );
  SentenceRow.init({ id: id(), accountId: text(36), name: text(60), terms: json() }, table("own_sentences"));
  FindingParamsRow.init({ accountId: key(36), setId: key(36), params: json() }, table("finding_params"));
  ReadingRow.init(
    {
      marketId: key(60),
      rung: key(10),
      params: key(40),
      history: whole(),
      validUntil: moment(),
      summary: json(),
      reading: json(),
    },
    table("readings"),
  );
  WorthRow.init(
    { marketId: key(60), rung: key(10), rules: whole(), history: whole(), until: moment(), worth: json() },
    table("worths"),
  );
  StudiesRow.init({ accountId: key(36), setId: key(36), name: key(60), studies: json() }, table("chart_studies"));
  LayoutRow.init({ accountId: id(), layout: json() }, table("chart_layouts"));
}
