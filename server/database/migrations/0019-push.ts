import type { QueryInterface } from "sequelize";

/** Browsers that are notified of what a reader is told. The digest is of the endpoint, which is too long for a key. */
const UP = `CREATE TABLE push_devices (id VARCHAR(64) NOT NULL, accountId VARCHAR(36) NOT NULL,
  endpoint VARCHAR(1000) NOT NULL, secrets VARCHAR(400) NOT NULL, name VARCHAR(160) NOT NULL, createdAt DOUBLE NOT NULL,
  PRIMARY KEY (id), KEY (accountId),
  CONSTRAINT push_account FOREIGN KEY (accountId) REFERENCES accounts (id) ON DELETE CASCADE)
  ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`;

export async function up({ context }: { context: QueryInterface }): Promise<void> {
  await context.sequelize.query(UP);
}

export async function down({ context }: { context: QueryInterface }): Promise<void> {
  await context.sequelize.query("DROP TABLE push_devices");
}
