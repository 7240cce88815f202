import type { QueryInterface } from "sequelize";

/** Imports on their way: how far each is, and what became of it, for whoever sent it and asks. */
const UP = `CREATE TABLE import_jobs (id VARCHAR(36) NOT NULL, accountId VARCHAR(36) NOT NULL,
  fileName VARCHAR(200) NOT NULL, state VARCHAR(10) NOT NULL, step VARCHAR(10) NOT NULL, share DOUBLE NOT NULL,
  report JSON NULL, failure JSON NULL, createdAt DOUBLE NOT NULL, aliveAt DOUBLE NOT NULL,
  PRIMARY KEY (id), KEY (aliveAt)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`;

export async function up({ context }: { context: QueryInterface }): Promise<void> {
  await context.sequelize.query(UP);
}

export async function down({ context }: { context: QueryInterface }): Promise<void> {
  await context.sequelize.query(`DROP TABLE import_jobs`);
}
