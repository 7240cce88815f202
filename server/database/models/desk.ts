import type { Sequelize } from "sequelize";
import type { CopyOf } from "#core/marks/equivalent";
import type { Anchor } from "#core/marks/kind";
import type { Scenario } from "#core/scenarios/scenario";
import { flag, id, json, maybeJson, moment, Row, text, whole } from "./columns.ts";

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
  /** Market clock at which it was first saved. */
  declare writtenAt: number;
}

/** What an analyst has on the desk; one row each. */
export class LayoutRow extends Row<LayoutRow> {
  declare accountId: string;
  declare layout: Record<string, unknown>;
}

/** Binds the tables of what analysts place and plan. */
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
    },
    table("marks"),
  );
  StepRow.init(
    { id: id(), marketId: text(60), markId: text(36), accountId: text(36), step: json(), wallTime: moment(), marketTime: moment() },
    table("mark_steps"),
  );
  ScenarioRow.init(
    { id: id(), marketId: text(60), accountId: text(36), plan: json(), version: whole(), removed: flag(), writtenAt: moment() },
    table("scenarios"),
  );
  LayoutRow.init({ accountId: id(), layout: json() }, table("chart_layouts"));
}
