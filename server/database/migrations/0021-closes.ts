import type { QueryInterface } from "sequelize";

/** When the last market of an edition has closed after it was published. */
export async function up({ context }: { context: QueryInterface }): Promise<void> {
  await context.sequelize.query("ALTER TABLE editions ADD closesAt DOUBLE NULL");
}

export async function down({ context }: { context: QueryInterface }): Promise<void> {
  await context.sequelize.query("ALTER TABLE editions DROP closesAt");
}
