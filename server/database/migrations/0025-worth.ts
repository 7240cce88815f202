import type { QueryInterface } from "sequelize";

/** What findings of a rung were worth as of bar `until`; measured anew when enough bars have come since. */
const UP = `CREATE TABLE worths (marketId VARCHAR(60) NOT NULL, rung VARCHAR(10) NOT NULL, rules INT NOT NULL,
  history INT NOT NULL, until DOUBLE NOT NULL, worth JSON NOT NULL, PRIMARY KEY (marketId, rung),
  FOREIGN KEY (marketId) REFERENCES markets (id) ON DELETE CASCADE) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`;

export async function up({ context }: { context: QueryInterface }): Promise<void> {
  await context.sequelize.query(UP);
}

export async function down({ context }: { context: QueryInterface }): Promise<void> {
  await context.sequelize.query(`DROP TABLE worths`);
}
