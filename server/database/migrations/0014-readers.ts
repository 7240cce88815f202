import type { QueryInterface } from "sequelize";

const TABLE = "ENGINE=InnoDB DEFAULT CHARSET=utf8mb4";

/**
 * What readers find editions by: their markets, their words by who may see them, and the market's time they are of.
 * What is on its way to readers: what they chose, tokens that stand for them, and messages with who is sending them.
 */
const UP = [
  "ALTER TABLE editions ADD marketTime DOUBLE NULL",
  `CREATE TABLE edition_markets (edition INT NOT NULL, marketId VARCHAR(60) NOT NULL,
   PRIMARY KEY (edition, marketId), KEY (marketId, edition)) ${TABLE}`,
  `CREATE TABLE edition_words (edition INT NOT NULL, see VARCHAR(80) NOT NULL, words MEDIUMTEXT NOT NULL,
   PRIMARY KEY (edition, see), FULLTEXT KEY (words)) ${TABLE}`,
  `CREATE TABLE reader_choices (accountId VARCHAR(36) NOT NULL, choices JSON NOT NULL, PRIMARY KEY (accountId),
   CONSTRAINT reader_choices_account FOREIGN KEY (accountId) REFERENCES accounts (id) ON DELETE CASCADE) ${TABLE}`,
  `CREATE TABLE tokens (id VARCHAR(64) NOT NULL, purpose VARCHAR(16) NOT NULL, accountId VARCHAR(36) NULL,
   data JSON NULL, createdAt DOUBLE NOT NULL, expiresAt DOUBLE NULL, usedAt DOUBLE NULL,
   PRIMARY KEY (id), KEY (accountId, purpose),
   CONSTRAINT tokens_account FOREIGN KEY (accountId) REFERENCES accounts (id) ON DELETE CASCADE) ${TABLE}`,
  `CREATE TABLE outbox (number BIGINT NOT NULL AUTO_INCREMENT, name VARCHAR(190) NOT NULL, kind VARCHAR(16) NOT NULL,
   accountId VARCHAR(36) NULL, what JSON NOT NULL, state VARCHAR(8) NOT NULL, attempts INT NOT NULL,
   dueAt DOUBLE NOT NULL, leasedUntil DOUBLE NOT NULL, leasedBy VARCHAR(36) NOT NULL, createdAt DOUBLE NOT NULL,
   sentAt DOUBLE NULL, fault VARCHAR(500) NOT NULL,
   PRIMARY KEY (number), UNIQUE KEY (name), KEY (state, dueAt),
   CONSTRAINT outbox_account FOREIGN KEY (accountId) REFERENCES accounts (id) ON DELETE CASCADE) ${TABLE}`,
  `CREATE TABLE questions (id VARCHAR(36) NOT NULL, edition INT NOT NULL, about VARCHAR(200) NOT NULL,
   accountId VARCHAR(36) NULL, stance VARCHAR(10) NOT NULL, words VARCHAR(1000) NOT NULL, parts JSON NOT NULL,
   state VARCHAR(8) NOT NULL, answer TEXT NULL, answeredBy VARCHAR(100) NULL, answeredAt DOUBLE NULL,
   createdAt DOUBLE NOT NULL, PRIMARY KEY (id), KEY (edition, state), KEY (state, createdAt),
   CONSTRAINT questions_account FOREIGN KEY (accountId) REFERENCES accounts (id) ON DELETE SET NULL) ${TABLE}`,
  "ALTER TABLE accounts ADD confirmedAt DOUBLE NULL, ADD totp JSON NULL",
  "UPDATE accounts SET confirmedAt = createdAt",
  "ALTER TABLE plans ADD open BOOLEAN NOT NULL DEFAULT 0",
  "UPDATE plans SET open = 1 WHERE id = 'free'",
];

const DOWN = [
  "ALTER TABLE plans DROP open",
  "ALTER TABLE accounts DROP confirmedAt, DROP totp",
  "DROP TABLE questions",
  "DROP TABLE outbox",
  "DROP TABLE tokens",
  "DROP TABLE reader_choices",
  "DROP TABLE edition_words",
  "DROP TABLE edition_markets",
  "ALTER TABLE editions DROP marketTime",
];

export async function up({ context }: { context: QueryInterface }): Promise<void> {
  for (const statement of UP) await context.sequelize.query(statement);
}

export async function down({ context }: { context: QueryInterface }): Promise<void> {
  for (const statement of DOWN) await context.sequelize.query(statement);
}
