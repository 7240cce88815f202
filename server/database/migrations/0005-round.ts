import type { QueryInterface } from "sequelize";

const OF_ACCOUNT = "FOREIGN KEY (accountId) REFERENCES accounts (id) ON DELETE CASCADE";
const OF_MARKET = "FOREIGN KEY (marketId) REFERENCES markets (id) ON DELETE CASCADE";
const TABLE = "ENGINE=InnoDB DEFAULT CHARSET=utf8mb4";

const UP = [
  // What ties a market to news: currencies, region, sector.
  `ALTER TABLE markets ADD ties JSON NULL`,
  // What a board shows of a market, kept until the next bar of one of its rungs closes; nothing that could not be
  // worked out again.
  `CREATE TABLE market_boards (marketId VARCHAR(60) NOT NULL, params VARCHAR(40) NOT NULL, history INT NOT NULL,
    marked INT NOT NULL,
    validUntil DOUBLE NOT NULL, standing JSON NOT NULL, PRIMARY KEY (marketId, params), ${OF_MARKET}) ${TABLE}`,
  `CREATE TABLE market_lists (id CHAR(36) NOT NULL, accountId CHAR(36) NOT NULL, name VARCHAR(60) NOT NULL,
    markets JSON NOT NULL, rare BOOLEAN NOT NULL,
    PRIMARY KEY (id), UNIQUE KEY (accountId, name), ${OF_ACCOUNT}) ${TABLE}`,
  `CREATE TABLE rounds (id CHAR(36) NOT NULL, accountId CHAR(36) NOT NULL, listId CHAR(36) NOT NULL,
    kind VARCHAR(10) NOT NULL, startedAt DOUBLE NOT NULL, endedAt DOUBLE NULL,
    summary VARCHAR(4000) NOT NULL, stops INT NOT NULL, looked INT NOT NULL, PRIMARY KEY (id), KEY (accountId,
    startedAt), ${OF_ACCOUNT}) ${TABLE}`,
  // One a market and round: what was decided, on which rung, and the close it has to be asked again after.
  `CREATE TABLE verdicts (roundId CHAR(36) NOT NULL, marketId VARCHAR(60) NOT NULL, rung VARCHAR(10) NOT NULL,
    verdict VARCHAR(10) NOT NULL, remark VARCHAR(500) NOT NULL,
    saidAt DOUBLE NOT NULL, asksAt DOUBLE NULL, PRIMARY KEY (roundId, marketId), FOREIGN KEY (roundId)
    REFERENCES rounds (id) ON DELETE CASCADE, ${OF_MARKET}) ${TABLE}`,
  `CREATE TABLE looks (accountId CHAR(36) NOT NULL, marketId VARCHAR(60) NOT NULL, rung VARCHAR(10) NOT NULL,
    lookedAt DOUBLE NOT NULL,
    PRIMARY KEY (accountId, marketId, rung), ${OF_ACCOUNT}, ${OF_MARKET}) ${TABLE}`,
  // Setups that were passed or missed, with what they would have been.
  `CREATE TABLE setups (id CHAR(36) NOT NULL, accountId CHAR(36) NOT NULL, marketId VARCHAR(60) NOT NULL,
    rung VARCHAR(10) NOT NULL, setup JSON NOT NULL, notedAt DOUBLE NOT NULL,
    PRIMARY KEY (id), KEY (accountId, notedAt), ${OF_ACCOUNT}, ${OF_MARKET}) ${TABLE}`,
  `CREATE TABLE horizons (accountId CHAR(36) NOT NULL, setId CHAR(36) NOT NULL, horizons JSON NOT NULL,
    PRIMARY KEY (accountId, setId), ${OF_ACCOUNT}) ${TABLE}`,
  `CREATE TABLE calendar_events (id CHAR(36) NOT NULL,
    uid VARCHAR(250) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL, at DOUBLE NOT NULL, event JSON NOT NULL,
    source VARCHAR(200) NOT NULL,
    PRIMARY KEY (id), UNIQUE KEY (uid), KEY (at)) ${TABLE}`,
  // \`told\` is the instant up to which the market's bars have been shown to it.
  `CREATE TABLE alerts (id CHAR(36) NOT NULL, accountId CHAR(36) NOT NULL, marketId VARCHAR(60) NOT NULL,
    terms JSON NOT NULL, state JSON NOT NULL, told DOUBLE NOT NULL,
    active BOOLEAN NOT NULL, createdAt DOUBLE NOT NULL, PRIMARY KEY (id), KEY (marketId, active), ${OF_ACCOUNT},
    ${OF_MARKET}) ${TABLE}`,
  // One a firing: the same event of an alert cannot be stored twice.
  `CREATE TABLE firings (number INT NOT NULL AUTO_INCREMENT, alertId CHAR(36) NOT NULL,
    event VARCHAR(120) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL, firedAt DOUBLE NOT NULL,
    says VARCHAR(500) NOT NULL, seen BOOLEAN NOT NULL, PRIMARY KEY (number), UNIQUE KEY (alertId, event),
    FOREIGN KEY (alertId) REFERENCES alerts (id) ON DELETE CASCADE) ${TABLE}`,
];

const DOWN = [
  "firings",
  "alerts",
  "calendar_events",
  "horizons",
  "setups",
  "looks",
  "verdicts",
  "rounds",
  "market_lists",
  "market_boards",
]
  .map((name) => `DROP TABLE ${name}`)
  .concat(`ALTER TABLE markets DROP ties`);

export async function up({ context }: { context: QueryInterface }): Promise<void> {
  for (const statement of UP) await context.sequelize.query(statement);
}

export async function down({ context }: { context: QueryInterface }): Promise<void> {
  for (const statement of DOWN) await context.sequelize.query(statement);
}
