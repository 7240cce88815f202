import type { QueryInterface } from "sequelize";

const TABLE = "ENGINE=InnoDB DEFAULT CHARSET=utf8mb4";

/** Tables whose rows say that the desk itself wrote them. */
const SEALED = ["markets", "plans", "watchers", "alerts", "firings"] as const;

/**
 * What published calls were told, page by page, each signed and following the one before; entries that say nothing
 * but a digest, with the part it is of beside them; seals of what is kept ready for readers.
 */
const UP = [
  `CREATE TABLE told_bars (sha256 CHAR(64) NOT NULL, bytes LONGBLOB NOT NULL, PRIMARY KEY (sha256)) ${TABLE}`,
  `CREATE TABLE told_pages (marketId VARCHAR(60) NOT NULL, number INT NOT NULL, generation INT NOT NULL,
    warm BOOLEAN NOT NULL, facts JSON NULL, bars INT NOT NULL, through DOUBLE NULL, bytes CHAR(64) NOT NULL,
    previousSha256 CHAR(64) NOT NULL, sha256 CHAR(64) NOT NULL, keyId CHAR(16) NOT NULL,
    signature VARCHAR(120) NOT NULL,
    PRIMARY KEY (marketId, number), KEY (bytes)) ${TABLE}`,
  `ALTER TABLE record_entries ADD format INT NOT NULL DEFAULT 1, ADD part LONGTEXT NULL`,
  ...SEALED.map((table) => `ALTER TABLE ${table} ADD seal VARCHAR(120) NOT NULL DEFAULT ''`),
];

const DOWN = [
  ...SEALED.map((table) => `ALTER TABLE ${table} DROP seal`),
  `ALTER TABLE record_entries DROP part, DROP format`,
  `DROP TABLE told_pages`,
  `DROP TABLE told_bars`,
];

export async function up({ context }: { context: QueryInterface }): Promise<void> {
  for (const statement of UP) await context.sequelize.query(statement);
}

export async function down({ context }: { context: QueryInterface }): Promise<void> {
  for (const statement of DOWN) await context.sequelize.query(statement);
}
