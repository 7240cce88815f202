import { QueryTypes, type QueryInterface } from "sequelize";

/** Drafts become a list of blocks of a kind of edition; what was written so far is words, markets and the notice. */
const RISK =
  "Education, not advice. Prices may go against any of this; losses are possible. What was said, when, and what " +
  "became of it stands in the record.";

interface Former {
  id: string;
  body: string;
  sections: string | object[];
}

export async function up({ context }: { context: QueryInterface }): Promise<void> {
  const { sequelize } = context;
  await sequelize.query(
    "ALTER TABLE drafts ADD kind VARCHAR(12) NOT NULL DEFAULT 'morning', ADD blocks JSON, ADD corrects JSON",
  );
  const drafts = await sequelize.query<Former>("SELECT id, body, sections FROM drafts", { type: QueryTypes.SELECT });
  for (const { id, body, sections } of drafts)
    await sequelize.query("UPDATE drafts SET blocks = ? WHERE id = ?", {
      replacements: [JSON.stringify(blocksOf(body, sections)), id],
    });
  await sequelize.query("ALTER TABLE drafts MODIFY blocks JSON NOT NULL, DROP body, DROP sections");
  await sequelize.query(
    "ALTER TABLE editions ADD kind VARCHAR(12) NOT NULL DEFAULT 'morning', ADD corrects INT, ADD KEY (corrects)",
  );
}

function blocksOf(body: string, stored: Former["sections"]): object[] {
  const sections = typeof stored === "string" ? (JSON.parse(stored) as object[]) : stored;
  const paragraphs = body.split(/\n\s*\n/).filter((text) => text.trim() !== "");
  const words = paragraphs.map((text) => ({ type: "paragraph", content: [{ type: "text", text: text.trim() }] }));
  return [
    { kind: "words", id: "words", words: { type: "doc", content: words } },
    ...sections.map((section, i) => ({ kind: "market", id: `market-${i + 1}`, ...section })),
    { kind: "risk", id: "risk", text: RISK },
  ];
}

export async function down({ context }: { context: QueryInterface }): Promise<void> {
  await context.sequelize.query(
    `ALTER TABLE drafts ADD body TEXT NOT NULL, ADD sections JSON NOT NULL DEFAULT '[]', DROP blocks, DROP kind,
     DROP corrects`,
  );
  await context.sequelize.query("ALTER TABLE editions DROP kind, DROP corrects");
}
