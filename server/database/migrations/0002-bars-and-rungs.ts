import type { QueryInterface } from "sequelize";

const UP = [
  // `revision` counts every change of a market's bars, `history` those that changed bars which had been closed.
  `ALTER TABLE markets ADD history INT NOT NULL DEFAULT 1, ADD formula JSON NULL`,
  // `standing` is 1, or NULL once undone: a file may stand only once, but come again after it was undone.
  `ALTER TABLE bar_imports ADD standing TINYINT NULL DEFAULT 1, ADD undoneAt DOUBLE NULL,
    ADD firstTime DOUBLE NULL, ADD lastTime DOUBLE NULL,
    ADD addedRuns LONGBLOB NULL, ADD replaced LONGBLOB NULL, 
    ADD UNIQUE KEY file_once (marketId, base, sha256, standing), DROP KEY marketId`,
  `CREATE TABLE restatements (id CHAR(36) NOT NULL, marketId VARCHAR(60) NOT NULL, base VARCHAR(10) NOT NULL,
    cause VARCHAR(10) NOT NULL,
    importId CHAR(36) NOT NULL, fromTime DOUBLE NOT NULL, toTime DOUBLE NOT NULL, bars INT NOT NULL,
    accountId CHAR(36) NOT NULL,
    createdAt DOUBLE NOT NULL, PRIMARY KEY (id), KEY (marketId, createdAt), FOREIGN KEY (marketId)
    REFERENCES markets (id) ON DELETE CASCADE)
    ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`,
  `ALTER TABLE followed_plans ADD since DOUBLE NOT NULL DEFAULT 0`,
  `CREATE TABLE outcome_notes (edition INT NOT NULL, scenarioId CHAR(36) NOT NULL, sequence INT NOT NULL,
    note JSON NOT NULL, createdAt DOUBLE NOT NULL,
    PRIMARY KEY (edition, scenarioId, sequence), FOREIGN KEY (edition, scenarioId)
    REFERENCES followed_plans (edition, scenarioId))
    ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`,
  `CREATE TABLE rung_sets (id CHAR(36) NOT NULL, accountId CHAR(36) NOT NULL, name VARCHAR(60) NOT NULL,
    rungs JSON NOT NULL, walk VARCHAR(4) NOT NULL,
    chosen BOOLEAN NOT NULL, version INT NOT NULL, PRIMARY KEY (id), UNIQUE KEY (accountId, name),
    FOREIGN KEY (accountId) REFERENCES accounts (id) ON DELETE CASCADE) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`,
];

const DOWN = [
  `DROP TABLE rung_sets`,
  `DROP TABLE outcome_notes`,
  `ALTER TABLE followed_plans DROP since`,
  `DROP TABLE restatements`,
  `DELETE FROM bar_imports WHERE standing IS NULL`,
  `ALTER TABLE bar_imports ADD UNIQUE KEY marketId (marketId, base, sha256), DROP KEY file_once, DROP standing,
    DROP undoneAt, DROP firstTime, DROP lastTime,
    DROP addedRuns, DROP replaced`,
  `ALTER TABLE markets DROP history, DROP formula`,
];

export async function up({ context }: { context: QueryInterface }): Promise<void> {
  for (const statement of UP) await context.sequelize.query(statement);
}

export async function down({ context }: { context: QueryInterface }): Promise<void> {
  for (const statement of DOWN) await context.sequelize.query(statement);
}
