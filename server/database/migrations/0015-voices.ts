import type { QueryInterface } from "sequelize";

/** What is said aloud at steps of a walk, by its digest; it goes with its draft, which an edition keeps. */
export async function up({ context }: { context: QueryInterface }): Promise<void> {
  await context.sequelize.query(
    `CREATE TABLE voices (sha256 VARCHAR(64) NOT NULL, draftId VARCHAR(36) NOT NULL, type VARCHAR(20) NOT NULL,
     bytes MEDIUMBLOB NOT NULL, storedAt DOUBLE NOT NULL, PRIMARY KEY (sha256, draftId), KEY (draftId),
     CONSTRAINT voices_draft FOREIGN KEY (draftId) REFERENCES drafts (id)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`,
  );
}

export async function down({ context }: { context: QueryInterface }): Promise<void> {
  await context.sequelize.query("DROP TABLE voices");
}
