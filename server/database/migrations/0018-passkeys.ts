import type { QueryInterface } from "sequelize";

/** Keys that devices keep, of which only the public half is here. */
export async function up({ context }: { context: QueryInterface }): Promise<void> {
  await context.sequelize.query(
    `CREATE TABLE passkeys (id VARCHAR(700) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
     accountId VARCHAR(36) NOT NULL, publicKey BLOB NOT NULL, counter DOUBLE NOT NULL, name VARCHAR(160) NOT NULL,
     createdAt DOUBLE NOT NULL, usedAt DOUBLE NULL, PRIMARY KEY (id), KEY (accountId),
     CONSTRAINT passkeys_account FOREIGN KEY (accountId) REFERENCES accounts (id) ON DELETE CASCADE)
     ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`,
  );
}

export async function down({ context }: { context: QueryInterface }): Promise<void> {
  await context.sequelize.query("DROP TABLE passkeys");
}
