import type { QueryInterface } from "sequelize";

/** A colleague reads a draft before it goes out, and it goes out at a time; what a desk has decided for itself. */
const UP = [
  "ALTER TABLE drafts ADD reading JSON, ADD goesOut JSON",
  `CREATE TABLE desk_settings (name VARCHAR(40) NOT NULL, value JSON NOT NULL, version INT NOT NULL, PRIMARY KEY (name))
   ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`,
];

export async function up({ context }: { context: QueryInterface }): Promise<void> {
  for (const statement of UP) await context.sequelize.query(statement);
}

export async function down({ context }: { context: QueryInterface }): Promise<void> {
  await context.sequelize.query("DROP TABLE desk_settings");
  await context.sequelize.query("ALTER TABLE drafts DROP reading, DROP goesOut");
}
