import type { QueryInterface } from "sequelize";

const CHARSET = "ENGINE=InnoDB DEFAULT CHARSET=utf8mb4";

/**
 * Plans say what readers are shown, and when. Pictures are kept by what is in them: one for each set of things a plan
 * shows, laid out for each width.
 */
const UP = [
  `CREATE TABLE plans (id VARCHAR(36) NOT NULL, name VARCHAR(60) NOT NULL, parts JSON NOT NULL, kinds JSON NOT NULL,
   wait INT NOT NULL, version INT NOT NULL, PRIMARY KEY (id), UNIQUE KEY (name)) ${CHARSET}`,
  `INSERT INTO plans (id, name, parts, kinds, wait, version) VALUES
   ('member', 'Member', '["words","levels","counts","scenarios","orders","pictures"]',
    '["morning","close","week","market","update","lesson"]', 0, 1),
   ('free', 'Free', '["words","levels","pictures"]', '["morning","week","update","lesson"]', 24, 1)`,
  `ALTER TABLE accounts ADD plan VARCHAR(36) NOT NULL DEFAULT 'member',
   ADD CONSTRAINT account_plan FOREIGN KEY (plan) REFERENCES plans (id)`,
  `CREATE TABLE artefacts (sha256 CHAR(64) CHARACTER SET ascii NOT NULL, bytes LONGBLOB NOT NULL,
   PRIMARY KEY (sha256)) ${CHARSET}`,
  "INSERT IGNORE INTO artefacts (sha256, bytes) SELECT SHA2(svg, 256), svg FROM edition_pictures",
  "INSERT IGNORE INTO artefacts (sha256, bytes) SELECT SHA2(png, 256), png FROM edition_pictures",
  `ALTER TABLE edition_pictures ADD view VARCHAR(80) NOT NULL DEFAULT '',
   ADD svgSha256 CHAR(64) CHARACTER SET ascii, ADD pngSha256 CHAR(64) CHARACTER SET ascii`,
  "UPDATE edition_pictures SET svgSha256 = SHA2(svg, 256), pngSha256 = SHA2(png, 256)",
  `ALTER TABLE edition_pictures DROP svg, DROP png, DROP PRIMARY KEY, ADD PRIMARY KEY (edition, section, view),
   MODIFY svgSha256 CHAR(64) CHARACTER SET ascii NOT NULL, MODIFY pngSha256 CHAR(64) CHARACTER SET ascii NOT NULL`,
];

const DOWN = [
  "DELETE FROM edition_pictures WHERE view <> '' AND view NOT LIKE 'wide %'",
  "ALTER TABLE edition_pictures ADD svg LONGBLOB, ADD png LONGBLOB",
  `UPDATE edition_pictures JOIN artefacts s ON s.sha256 = svgSha256 JOIN artefacts p ON p.sha256 = pngSha256
   SET svg = s.bytes, png = p.bytes`,
  `DELETE a FROM edition_pictures a JOIN edition_pictures b ON a.edition = b.edition AND a.section = b.section
   AND (LENGTH(b.view) > LENGTH(a.view) OR (LENGTH(b.view) = LENGTH(a.view) AND b.view > a.view))`,
  `ALTER TABLE edition_pictures DROP PRIMARY KEY, ADD PRIMARY KEY (edition, section), DROP view, DROP svgSha256,
   DROP pngSha256, MODIFY svg LONGBLOB NOT NULL, MODIFY png LONGBLOB NOT NULL`,
  "DROP TABLE artefacts",
  "ALTER TABLE accounts DROP FOREIGN KEY account_plan, DROP plan",
  "DROP TABLE plans",
];

async function inOrder(context: QueryInterface, statements: readonly string[]): Promise<void> {
  for (const statement of statements) await context.sequelize.query(statement);
}

export const up = ({ context }: { context: QueryInterface }) => inOrder(context, UP);
export const down = ({ context }: { context: QueryInterface }) => inOrder(context, DOWN);
