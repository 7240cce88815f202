import type { QueryInterface } from "sequelize";

/**
 * Studies on an analyst's charts: those of a set of rungs stand under an empty name, looks under their own with an
 * empty set. Names are compared letter by letter.
 */
const UP = `CREATE TABLE chart_studies (accountId VARCHAR(36) NOT NULL, setId VARCHAR(36) NOT NULL,
  name VARCHAR(60) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL, studies JSON NOT NULL,
  PRIMARY KEY (accountId, setId, name)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`;

export async function up({ context }: { context: QueryInterface }): Promise<void> {
  await context.sequelize.query(UP);
}

export async function down({ context }: { context: QueryInterface }): Promise<void> {
  await context.sequelize.query(`DROP TABLE chart_studies`);
}
