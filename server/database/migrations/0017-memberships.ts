import type { QueryInterface } from "sequelize";

const TABLE = "ENGINE=InnoDB DEFAULT CHARSET=utf8mb4";

/** What readers pay for, and every message of the payment house by its name: none counts twice. */
const UP = [
  "ALTER TABLE plans ADD price VARCHAR(60) NOT NULL DEFAULT ''",
  "UPDATE plans SET price = '12 crowns a month' WHERE id = 'member'",
  `CREATE TABLE memberships (accountId VARCHAR(36) NOT NULL, plan VARCHAR(36) NOT NULL,
   \`before\` VARCHAR(36) NOT NULL, state VARCHAR(10) NOT NULL, until DOUBLE NOT NULL, at DOUBLE NOT NULL,
   PRIMARY KEY (accountId), KEY (state, until),
   CONSTRAINT memberships_account FOREIGN KEY (accountId) REFERENCES accounts (id) ON DELETE CASCADE) ${TABLE}`,
  `CREATE TABLE payments (id VARCHAR(100) NOT NULL, accountId VARCHAR(36) NOT NULL, kind VARCHAR(10) NOT NULL,
   at DOUBLE NOT NULL, PRIMARY KEY (id), KEY (accountId),
   CONSTRAINT payments_account FOREIGN KEY (accountId) REFERENCES accounts (id) ON DELETE CASCADE) ${TABLE}`,
];

const DOWN = ["DROP TABLE payments", "DROP TABLE memberships", "ALTER TABLE plans DROP price"];

export async function up({ context }: { context: QueryInterface }): Promise<void> {
  for (const statement of UP) await context.sequelize.query(statement);
}

export async function down({ context }: { context: QueryInterface }): Promise<void> {
  for (const statement of DOWN) await context.sequelize.query(statement);
}
