import type { QueryInterface } from "sequelize";

/** A scenario is called one everywhere: a plan is what a day is begun with. */
const UP = [
  `ALTER TABLE scenarios CHANGE plan scenario JSON NOT NULL`,
  `ALTER TABLE scenario_steps CHANGE plan scenario JSON NOT NULL`,
];

const DOWN = [
  `ALTER TABLE scenario_steps CHANGE scenario plan JSON NOT NULL`,
  `ALTER TABLE scenarios CHANGE scenario plan JSON NOT NULL`,
];

export async function up({ context }: { context: QueryInterface }): Promise<void> {
  for (const statement of UP) await context.sequelize.query(statement);
}

export async function down({ context }: { context: QueryInterface }): Promise<void> {
  for (const statement of DOWN) await context.sequelize.query(statement);
}
