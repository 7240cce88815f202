import type { QueryInterface } from "sequelize";

const UP = [
  `ALTER TABLE marks ADD locked BOOLEAN NOT NULL DEFAULT FALSE, ADD hidden BOOLEAN NOT NULL DEFAULT FALSE,
    ADD copied JSON NULL`,
  // Grows with every change of a market's marks: by it an open page knows that somebody changed some.
  `ALTER TABLE markets ADD marked INT NOT NULL DEFAULT 0`,
  // When a plan was first written, on the market's clock: before that moment nobody can have known it.
  `ALTER TABLE scenarios ADD writtenAt DOUBLE NOT NULL DEFAULT 0`,
  // The charts an analyst has side by side and what is left out of them; one row each.
  `CREATE TABLE chart_layouts (accountId CHAR(36) NOT NULL, layout JSON NOT NULL, PRIMARY KEY (accountId),
    FOREIGN KEY (accountId) REFERENCES accounts (id) ON DELETE CASCADE) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`,
];

const DOWN = [
  `DROP TABLE chart_layouts`,
  `ALTER TABLE scenarios DROP writtenAt`,
  `ALTER TABLE markets DROP marked`,
  `ALTER TABLE marks DROP locked, DROP hidden, DROP copied`,
];

export async function up({ context }: { context: QueryInterface }): Promise<void> {
  for (const statement of UP) await context.sequelize.query(statement);
}

export async function down({ context }: { context: QueryInterface }): Promise<void> {
  for (const statement of DOWN) await context.sequelize.query(statement);
}
