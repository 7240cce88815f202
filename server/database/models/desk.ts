import type { Sequelize } from "sequelize";
import type { Anchor } from "#core/marks/kind";
import type { Scenario } from "#core/scenarios/scenario";
import { flag, id, json, moment, Row, text, whole } from "./columns.ts";

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
}
