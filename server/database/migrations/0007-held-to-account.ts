import type { QueryInterface } from "sequelize";

const TABLE = "ENGINE=InnoDB DEFAULT CHARSET=utf8mb4";
const OF_ACCOUNT = "FOREIGN KEY (accountId) REFERENCES accounts (id) ON DELETE CASCADE";

const UP = [
  // Two addresses that differ by an accent are two people's.
  `ALTER TABLE accounts MODIFY email VARCHAR(254) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL`,
  `ALTER TABLE accounts ADD closedAt DOUBLE NULL, ADD passwordAt DOUBLE NULL`,
  `ALTER TABLE sessions ADD createdAt DOUBLE NOT NULL DEFAULT 0, ADD seenAt DOUBLE NOT NULL DEFAULT 0,
    ADD device VARCHAR(160) NOT NULL DEFAULT ''`,
  `DROP TABLE sign_in_attempts`,
  // Failed sign-ins of one account from one device, or from all devices it does not know; \`waitUntil\` is when the
  // next may be tried.
  `CREATE TABLE sign_in_counts (subject CHAR(64) NOT NULL, failures INT NOT NULL, waitUntil DOUBLE NOT NULL,
    changedAt DOUBLE NOT NULL, triedBy CHAR(36) NOT NULL, PRIMARY KEY (subject), KEY (changedAt)) ${TABLE}`,
  // Devices an account has been signed in on before, by the digest of what their cookie says.
  `CREATE TABLE known_devices (id CHAR(64) NOT NULL, accountId CHAR(36) NOT NULL, createdAt DOUBLE NOT NULL,
    seenAt DOUBLE NOT NULL, PRIMARY KEY (id), KEY (accountId, seenAt), ${OF_ACCOUNT}) ${TABLE}`,
  // Who did what, when, and what stood there before. It outlives the accounts it speaks of.
  `CREATE TABLE audit_log (number INT NOT NULL AUTO_INCREMENT, at DOUBLE NOT NULL, accountId CHAR(36) NOT NULL,
    who VARCHAR(100) NOT NULL, what VARCHAR(40) NOT NULL, subject VARCHAR(200) NOT NULL,
    detail JSON NULL, PRIMARY KEY (number), KEY (what, number), KEY (accountId, number)) ${TABLE}`,
  // The record: one entry for each edition, follow-up and note, each naming the digest of the one before.
  `CREATE TABLE record_entries (number INT NOT NULL, kind VARCHAR(10) NOT NULL, edition INT NOT NULL,
    scenarioId CHAR(36) NOT NULL, sequence INT NOT NULL, digest CHAR(64) NOT NULL, at DOUBLE NOT NULL,
    previousSha256 CHAR(64) NOT NULL, sha256 CHAR(64) NOT NULL, keyId CHAR(16) NOT NULL,
    signature VARCHAR(120) NOT NULL, PRIMARY KEY (number), UNIQUE KEY (kind, edition, scenarioId, sequence)) ${TABLE}`,
  // One row, held by whoever adds to the record: its entries follow each other without a gap.
  `CREATE TABLE record_head (id INT NOT NULL, number INT NOT NULL, sha256 CHAR(64) NOT NULL,
    PRIMARY KEY (id)) ${TABLE}`,
  `INSERT INTO record_head (id, number, sha256) VALUES (1, 0, '${"0".repeat(64)}')`,
  // Pictures as they were published.
  `CREATE TABLE edition_pictures (edition INT NOT NULL, section INT NOT NULL, svg LONGBLOB NOT NULL,
    png LONGBLOB NOT NULL, PRIMARY KEY (edition, section), FOREIGN KEY (edition)
    REFERENCES editions (number)) ${TABLE}`,
  // What is followed stands in the edition that was frozen, and nowhere else.
  `ALTER TABLE followed_plans DROP COLUMN plan`,
];

/** Addresses stay compared letter by letter: two may have come to differ by an accent alone. */
const DOWN = [
  ...["edition_pictures", "record_head", "record_entries", "audit_log", "known_devices", "sign_in_counts"].map(
    (name) => `DROP TABLE ${name}`,
  ),
  `CREATE TABLE sign_in_attempts (subject CHAR(64) NOT NULL, windowStart DOUBLE NOT NULL, count INT NOT NULL,
    PRIMARY KEY (subject, windowStart)) ${TABLE}`,
  `ALTER TABLE sessions DROP createdAt, DROP seenAt, DROP device`,
  `ALTER TABLE accounts DROP closedAt, DROP passwordAt`,
  `ALTER TABLE followed_plans ADD plan JSON NOT NULL DEFAULT '{}'`,
];

export async function up({ context }: { context: QueryInterface }): Promise<void> {
  for (const statement of UP) await context.sequelize.query(statement);
}

export async function down({ context }: { context: QueryInterface }): Promise<void> {
  for (const statement of DOWN) await context.sequelize.query(statement);
}
