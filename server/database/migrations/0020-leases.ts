import type { QueryInterface } from "sequelize";

/** Which process does what one does at a time, and until when unless it says so again (ms, the database's clock). */
const UP = `CREATE TABLE leases (name VARCHAR(40) NOT NULL, holder VARCHAR(36) NOT NULL, until DOUBLE NOT NULL,
  PRIMARY KEY (name)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`;

export async function up({ context }: { context: QueryInterface }): Promise<void> {
  await context.sequelize.query(UP);
}

export async function down({ context }: { context: QueryInterface }): Promise<void> {
  await context.sequelize.query("DROP TABLE leases");
}
