import { randomUUID } from "node:crypto";
import { describe, expect, it } from "vitest";
import { wordsOf } from "#core/edition/words";
import { plainDraft } from "#core/edition/blocks";
import { PARTS } from "#core/edition/parts";
import { WHOLE } from "../accounts/plans.ts";
import { Edition, EditionPicture } from "../database/models.ts";
import { findDraft, saveDraft } from "../publishing/drafts.ts";
import { wouldBe } from "../publishing/freeze.ts";
import { publish } from "../publishing/publish.ts";
import { aWorld } from "../publishingTesting.ts";
import { withTables } from "../testing.ts";
import { asText } from "./asText.ts";
import { figuresSeen } from "./figuresSeen.ts";
import { seeEdition, wouldSee } from "./seen.ts";

withTables();

async function aDraft() {
  const world = await aWorld([100], { stop: 97.31, targets: [{ price: 123.45, share: 1 }] });
  const { blocks, ...draft } = plainDraft("Tin holds", "Two words.", [world.section]);
  const said = blocks.map((block) => (block.kind === "market" ? { ...block, words: wordsOf("Beside it.") } : block));
  await saveDraft(world.draft.id, { ...draft, blocks: said, version: 2 });
  return { ...world, draft: await findDraft(world.draft.id) };
}

describe("a draft as readers will see it", () => {
  it("is what is published then, block for block and plan for plan, and stores nothing", async () => {
    const { draft, author } = await aDraft();
    const before = [await Edition.count(), await EditionPicture.count()];
    const would = await wouldBe(draft);
    expect([await Edition.count(), await EditionPicture.count()]).toEqual(before);
    const number = await publish(draft.id, author);
    expect(would.number).toBe(number);
    for (const parts of [PARTS, ["words", "scenarios"], ["levels"]] as const) {
      const sight = { ...WHOLE, parts };
      const { content } = await seeEdition(String(number), sight);
      // Of what is not published there are no pictures yet.
      const bare = (blocks: object) =>
        JSON.parse(JSON.stringify(blocks), (name, one: unknown) => (name === "pictures" ? {} : one)) as unknown;
      expect(bare(wouldSee(would, sight).blocks)).toEqual(bare(content.blocks));
    }
  });

  it("is counted plan by plan: what is withheld is not in the figures", async () => {
    const would = await wouldBe((await aDraft()).draft);
    const of = (...parts: (typeof PARTS)[number][]) => figuresSeen(wouldSee(would, { ...WHOLE, parts }));
    expect(of(...PARTS)).toMatchObject({ words: 4, calls: 1, orders: 1, pictures: 1 });
    expect(of("words", "scenarios")).toMatchObject({ words: 4, calls: 1, orders: 0, pictures: 0, levels: 0 });
    expect(of("pictures")).toMatchObject({ words: 0, calls: 0, orders: 0, pictures: 1 });
    expect(of().numbers).toBeLessThan(of("scenarios").numbers);
    expect(of("scenarios").numbers).toBeLessThan(of("scenarios", "orders").numbers);
  });
});

describe("an edition as plain text", () => {
  it("says in order what of it may be seen: the call with its prices, or that they are for others", async () => {
    const { draft, author, scenario, market } = await aDraft();
    const { content } = await seeEdition(String(await publish(draft.id, author)), WHOLE);
    const whole = asText(content);
    const inOrder = [
      "Tin holds\n=========",
      "Two words.",
      market.name,
      "Beside it.",
      `\n${scenario.title}\n`,
      "97.31",
      "123.45",
    ];
    const places = inOrder.map((text) => whole.indexOf(text));
    expect(places).not.toContain(-1);
    expect(places).toEqual([...places].sort((a, b) => a - b));
    expect(whole.trimEnd().endsWith("stands in the record.")).toBe(true);
    const part = asText(wouldSee(content, { ...WHOLE, parts: ["scenarios"] }));
    expect(part).toContain("for other plans");
    expect(part).toContain("\u00d7 Wrong at 99.00.");
    for (const hidden of ["97.31", "123.45", "Two words", "Beside it", randomUUID()])
      expect(part).not.toContain(hidden);
  });
});
