import type { QueryInterface } from "sequelize";

const TABLES: Record<string, string> = {
  accounts: `id CHAR(36) NOT NULL, email VARCHAR(254) NOT NULL, name VARCHAR(100) NOT NULL, role VARCHAR(12) NOT NULL,
    passwordHash VARCHAR(200) NOT NULL, createdAt DOUBLE NOT NULL, PRIMARY KEY (id), UNIQUE KEY (email)`,
  sessions: `id CHAR(64) NOT NULL, accountId CHAR(36) NOT NULL, expiresAt DOUBLE NOT NULL, PRIMARY KEY (id),
    KEY (expiresAt),
    FOREIGN KEY (accountId) REFERENCES accounts (id) ON DELETE CASCADE`,
  sign_in_attempts: `subject CHAR(64) NOT NULL, windowStart DOUBLE NOT NULL, count INT NOT NULL,
    PRIMARY KEY (subject, windowStart)`,
  markets: `id VARCHAR(60) NOT NULL, name VARCHAR(80) NOT NULL, kind VARCHAR(20) NOT NULL, tick DOUBLE NOT NULL,
    pip DOUBLE NOT NULL,
    pipName VARCHAR(12) NOT NULL, decimals INT NOT NULL, calendar JSON NOT NULL, revision INT NOT NULL,
    PRIMARY KEY (id)`,
  bar_chunks: `marketId VARCHAR(60) NOT NULL, shelf VARCHAR(4) NOT NULL, base VARCHAR(10) NOT NULL,
    startTime DOUBLE NOT NULL,
    endTime DOUBLE NOT NULL, length INT NOT NULL, data LONGBLOB NOT NULL, PRIMARY KEY (marketId, shelf, base,
    startTime),
    FOREIGN KEY (marketId) REFERENCES markets (id) ON DELETE CASCADE`,
  bar_imports: `id CHAR(36) NOT NULL, marketId VARCHAR(60) NOT NULL, base VARCHAR(10) NOT NULL,
    sha256 CHAR(64) NOT NULL,
    fileName VARCHAR(200) NOT NULL, report JSON NOT NULL, accountId CHAR(36) NOT NULL, createdAt DOUBLE NOT NULL,
    PRIMARY KEY (id),
    UNIQUE KEY (marketId, base, sha256), FOREIGN KEY (marketId) REFERENCES markets (id) ON DELETE CASCADE`,
  marks: `id CHAR(36) NOT NULL, marketId VARCHAR(60) NOT NULL, rung VARCHAR(10) NOT NULL, kind VARCHAR(30) NOT NULL,
    anchors JSON NOT NULL,
    props JSON NOT NULL, note VARCHAR(2000) NOT NULL, author CHAR(36) NOT NULL, version INT NOT NULL,
    removed BOOLEAN NOT NULL,
    PRIMARY KEY (id), KEY (marketId, removed), FOREIGN KEY (marketId) REFERENCES markets (id) ON DELETE CASCADE`,
  mark_steps: `id CHAR(36) NOT NULL, marketId VARCHAR(60) NOT NULL, markId CHAR(36) NOT NULL,
    accountId CHAR(36) NOT NULL, step JSON NOT NULL,
    wallTime DOUBLE NOT NULL, marketTime DOUBLE NOT NULL, PRIMARY KEY (id), KEY (marketId, marketTime),
    FOREIGN KEY (marketId) REFERENCES markets (id) ON DELETE CASCADE`,
  scenarios: `id CHAR(36) NOT NULL, marketId VARCHAR(60) NOT NULL, accountId CHAR(36) NOT NULL, plan JSON NOT NULL,
    version INT NOT NULL,
    removed BOOLEAN NOT NULL, PRIMARY KEY (id), KEY (marketId, removed), FOREIGN KEY (marketId)
    REFERENCES markets (id) ON DELETE CASCADE`,
  drafts: `id CHAR(36) NOT NULL, accountId CHAR(36) NOT NULL, title VARCHAR(200) NOT NULL, body TEXT NOT NULL,
    sections JSON NOT NULL,
    version INT NOT NULL, published INT NULL, updatedAt DOUBLE NOT NULL, PRIMARY KEY (id), KEY (accountId)`,
  editions: `number INT NOT NULL, draftId CHAR(36) NOT NULL, title VARCHAR(200) NOT NULL,
    canonical LONGTEXT NOT NULL, sha256 CHAR(64) NOT NULL,
    previousSha256 CHAR(64) NOT NULL, publishedAt DOUBLE NOT NULL, PRIMARY KEY (number), UNIQUE KEY (draftId)`,
  followed_plans: `edition INT NOT NULL, scenarioId CHAR(36) NOT NULL, marketId VARCHAR(60) NOT NULL,
    plan JSON NOT NULL, state JSON NOT NULL,
    lastTime DOUBLE NOT NULL, done BOOLEAN NOT NULL, PRIMARY KEY (edition, scenarioId), KEY (marketId, done),
    FOREIGN KEY (edition) REFERENCES editions (number)`,
  follow_ups: `edition INT NOT NULL, scenarioId CHAR(36) NOT NULL, sequence INT NOT NULL, event JSON NOT NULL,
    createdAt DOUBLE NOT NULL,
    PRIMARY KEY (edition, scenarioId, sequence), FOREIGN KEY (edition, scenarioId)
    REFERENCES followed_plans (edition, scenarioId)`,
  market_clock: `id INT NOT NULL, now DOUBLE NOT NULL, speed DOUBLE NOT NULL, wallTime DOUBLE NOT NULL,
    PRIMARY KEY (id)`,
};

export async function up({ context }: { context: QueryInterface }): Promise<void> {
  for (const [name, columns] of Object.entries(TABLES))
    await context.sequelize.query(`CREATE TABLE ${name} (${columns}) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`);
}

export async function down({ context }: { context: QueryInterface }): Promise<void> {
  for (const name of Object.keys(TABLES).reverse()) await context.sequelize.query(`DROP TABLE ${name}`);
}
