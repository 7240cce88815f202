import type { QueryInterface } from "sequelize";

/** Sentences an analyst keeps to begin scenarios with; their prices are distances from the close, in ATR. */
const UP = `CREATE TABLE own_sentences (id CHAR(36) NOT NULL, accountId CHAR(36) NOT NULL, name VARCHAR(60) NOT NULL,
  terms JSON NOT NULL, PRIMARY KEY (id), UNIQUE KEY (accountId, name),
  FOREIGN KEY (accountId) REFERENCES accounts (id) ON DELETE CASCADE)
  ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`;

export async function up({ context }: { context: QueryInterface }): Promise<void> {
  await context.sequelize.query(UP);
}

export async function down({ context }: { context: QueryInterface }): Promise<void> {
  await context.sequelize.query("DROP TABLE own_sentences");
}
