import type { QueryInterface } from "sequelize";

const UP = [
  // What a mark was taken over from, when the machine offered it.
  `ALTER TABLE marks ADD found JSON NULL`,
  // What the machine looks for, by analyst and set of rungs; the set everybody has is the empty id.
  `CREATE TABLE finding_params (accountId CHAR(36) NOT NULL, setId CHAR(36) NOT NULL, params JSON NOT NULL,
    PRIMARY KEY (accountId, setId),
    FOREIGN KEY (accountId) REFERENCES accounts (id) ON DELETE CASCADE) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`,
  // Kept until the rung's next bar closes; nothing that could not be worked out again.
  `CREATE TABLE readings (marketId VARCHAR(60) NOT NULL, rung VARCHAR(10) NOT NULL, params VARCHAR(40) NOT NULL,
    history INT NOT NULL,
    validUntil DOUBLE NOT NULL, summary JSON NOT NULL, reading JSON NOT NULL, PRIMARY KEY (marketId, rung, params),
    FOREIGN KEY (marketId) REFERENCES markets (id) ON DELETE CASCADE) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`,
];

const DOWN = [`DROP TABLE readings`, `DROP TABLE finding_params`, `ALTER TABLE marks DROP found`];

export async function up({ context }: { context: QueryInterface }): Promise<void> {
  for (const statement of UP) await context.sequelize.query(statement);
}

export async function down({ context }: { context: QueryInterface }): Promise<void> {
  for (const statement of DOWN) await context.sequelize.query(statement);
}
