import type { QueryInterface } from "sequelize";

const TABLE = "ENGINE=InnoDB DEFAULT CHARSET=utf8mb4";

/** Addresses of programs that are told what a reader is told; and what a reply is to. */
const UP = [
  `CREATE TABLE hooks (id VARCHAR(36) NOT NULL, accountId VARCHAR(36) NOT NULL, address VARCHAR(500) NOT NULL,
   secret VARCHAR(200) NOT NULL, createdAt DOUBLE NOT NULL, PRIMARY KEY (id), KEY (accountId),
   CONSTRAINT hooks_account FOREIGN KEY (accountId) REFERENCES accounts (id) ON DELETE CASCADE) ${TABLE}`,
  "ALTER TABLE questions ADD parentId VARCHAR(36) NULL, ADD KEY (parentId)",
];

const DOWN = ["ALTER TABLE questions DROP parentId", "DROP TABLE hooks"];

export async function up({ context }: { context: QueryInterface }): Promise<void> {
  for (const statement of UP) await context.sequelize.query(statement);
}

export async function down({ context }: { context: QueryInterface }): Promise<void> {
  for (const statement of DOWN) await context.sequelize.query(statement);
}
