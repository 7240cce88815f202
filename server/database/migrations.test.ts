import { randomUUID } from "node:crypto";
import { QueryTypes } from "sequelize";
import { describe, expect, it } from "vitest";
import { anAnalyst, withTables } from "../testing.ts";
import * as editionBlocks from "./migrations/0011-edition-blocks.ts";
import { Draft } from "./models.ts";

withTables();

describe("drafts of before there were blocks", () => {
  it("become words, markets and the notice, and nothing of them is lost", async () => {
    const { sequelize } = Draft;
    if (!sequelize) throw new Error("There is no database.");
    const author = await anAnalyst();
    const context = sequelize.getQueryInterface();
    await editionBlocks.down({ context });
    const id = randomUUID();
    const sections = [
      { market: "tin", rung: "P1D", scenarios: [randomUUID()], counts: { degrees: 1, alternates: true } },
    ];
    await sequelize.query(
      "INSERT INTO drafts (id, accountId, title, body, sections, version, updatedAt) VALUES (?, ?, 'T', ?, ?, 3, 1)",
      { replacements: [id, author.id, "One.\n\n\nTwo.", JSON.stringify(sections)] },
    );
    await editionBlocks.up({ context });
    const [draft] = await sequelize.query<{ kind: string; blocks: string | object; version: number }>(
      "SELECT kind, blocks, version FROM drafts WHERE id = ?",
      { replacements: [id], type: QueryTypes.SELECT },
    );
    const blocks = (typeof draft.blocks === "string" ? JSON.parse(draft.blocks) : draft.blocks) as object[];
    expect(draft).toMatchObject({ kind: "morning", version: 3 });
    const paragraph = (text: string) => ({ type: "paragraph", content: [{ type: "text", text }] });
    expect(blocks).toMatchObject([
      { kind: "words", words: { type: "doc", content: [paragraph("One."), paragraph("Two.")] } },
      { kind: "market", ...sections[0] },
      { kind: "risk" },
    ]);
  });
});
