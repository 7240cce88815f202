import { randomUUID } from "node:crypto";
import { describe, expect, it } from "vitest";
import { plainDraft, templateOf, type Block } from "#core/edition/blocks";
import { textOfWords, wordsOf, type Words } from "#core/edition/words";
import { applySteps } from "../desk/marks.ts";
import { saveScenario, scenariosOf } from "../desk/scenarios.ts";
import { advance } from "../intake/feed.ts";
import { aWorld, MINUTE, START } from "../publishingTesting.ts";
import { checkRecord } from "../record/check.ts";
import { assembled, isLeafProven, leavesOf, leavesSeen, provenLeaves } from "../record/leaves.ts";
import { lengthOf } from "#core/marks/shown";
import { PARTS } from "#core/edition/parts";
import { failureOf, withTables } from "../testing.ts";
import type { EditionContent } from "./content.ts";
import { createDraft, findDraft, saveDraft } from "./drafts.ts";
import { findEdition } from "./editions.ts";
import { beforePublishing } from "./before.ts";
import { chipOptions } from "./chips.ts";
import { argumentOf } from "./argument.ts";
import { composeAll } from "./freeze.ts";
import { artefact, pictureFor } from "./pictures.ts";
import { publish } from "./publish.ts";
import { recordSoFar } from "./recordSoFar.ts";
import { rollForward } from "./rollForward.ts";
import { sinceLast } from "./sinceLast.ts";

withTables();

/** Closes that trigger the scenario of that world, and go through its targets. */
const UP = [...Array.from({ length: 6 }, () => 102), ...Array.from({ length: 30 }, () => 107)];

type World = Awaited<ReturnType<typeof aWorld>>;

async function aLevel(
  { market, author }: World,
  price: number,
  id: string = randomUUID(),
  version = 0,
): Promise<string> {
  const mark = {
    id,
    kind: "level",
    rung: "PT15M",
    anchors: [{ time: START, price }],
    props: { label: "lid" },
    note: "",
  };
  await applySteps(market.id, [{ id: randomUUID(), step: "set", version, mark }], author.id);
  return id;
}

const published = async (number: number) => {
  const { edition, content } = await findEdition(String(number));
  return { leaves: leavesOf(edition.canonical) ?? [], root: edition.sha256, content };
};
const blockOf = <K extends Block["kind"]>({ blocks }: EditionContent, kind: K) =>
  blocks.find((block) => block.kind === kind) as Extract<EditionContent["blocks"][number], { kind: K }>;

describe("what each plan may see", () => {
  it("is cut out of one edition, proven by one root, and holds no price of what it does not show", async () => {
    const world = await aWorld([100], { stop: 97.31, targets: [{ price: 123.45, share: 1 }] });
    const { leaves, root } = await published(await publish(world.draft.id, world.author));
    const free = provenLeaves(leaves, ["words", "scenarios"]);
    for (const leaf of free) expect(isLeafProven(leaf, root)).toBe(true);
    const shown = JSON.stringify(free.map(({ leaf }) => leaf));
    expect(shown).toContain(world.scenario.title);
    // Stop and targets are of the plans that have orders; bars, levels and pictures of those that have them.
    for (const withheld of ["97.31", "123.45", '"bars"', '"levels"', '"picture"'])
      expect(shown).not.toContain(withheld);
    expect(JSON.stringify(leaves)).toMatch(/97\.31.*123\.45/);
    const { blocks } = assembled(free.map(({ leaf }) => leaf)) as unknown as EditionContent;
    expect(blocks[1]).toMatchObject({ kind: "market", section: { market: { id: world.market.id } } });
  });
});

describe("blocks of an edition", () => {
  it("hold the numbers of the desk as they are when it is frozen", async () => {
    const world = await aWorld([100]);
    const id = await aLevel(world, 104);
    const chip = { market: world.market.id, of: "mark" as const, id, part: "at lid", text: "1" };
    const words: Words = {
      type: "doc",
      content: [
        {
          type: "paragraph",
          content: [
            { type: "text", text: "Up to " },
            { type: "chip", attrs: chip },
          ],
        },
      ],
    };
    const draft = plainDraft("A title", "", [world.section]);
    const blocks = [{ kind: "words" as const, id: "words", words }, ...draft.blocks.slice(1)];
    await saveDraft(world.draft.id, { ...draft, blocks, version: 2 });
    await aLevel(world, 106.5, id, 1);
    const { content } = await published(await publish(world.draft.id, world.author));
    expect(textOfWords(blockOf(content, "words").words)).toMatch(/^Up to 106\.5/);
  });
  it("that the machine fills have the calls best first, and what became of those before", async () => {
    const world = await aWorld(UP);
    const first = await publish(world.draft.id, world.author);
    await advance(40);
    const draft = await createDraft(world.author.id);
    const { kind, blocks } = plainDraft("", "Words.", [world.section]);
    const filled: Block[] = (["ranking", "recap", "board", "calendar"] as const).map((one) =>
      one === "calendar" ? { kind: one, id: one, days: 1 } : { kind: one, id: one },
    );
    await saveDraft(draft.id, { version: 1, title: "After", kind, blocks: [...blocks, ...filled] });
    const { content } = await published(await publish(draft.id, world.author));
    expect(blockOf(content, "ranking").lines).toMatchObject([
      { market: world.market.name, title: "A", direction: "long", reward: 1.5 },
    ]);
    const [line] = blockOf(content, "recap").lines;
    expect(line).toMatchObject({ edition: first, title: "A", market: world.market.name });
    expect(line.since.join(" ")).toMatch(/Triggered by a close at .*Entered at .*Target 1 reached/);
    expect(line.stands).toBeUndefined();
    expect(blockOf(content, "board").lines.map(({ market }) => market)).toContain(world.market.name);
    expect(blockOf(content, "calendar").lines).toEqual([]);
  });
  it("tell what changed of a market since the edition that last had it", async () => {
    const world = await aWorld([100]);
    const id = await aLevel(world, 104);
    const first = await publish(world.draft.id, world.author);
    expect(blockOf((await published(first)).content, "market").changed).toBeUndefined();
    await aLevel(world, 105, id, 1);
    const draft = await createDraft(world.author.id);
    await saveDraft(draft.id, { version: 1, ...plainDraft("Again", "Words.", [{ ...world.section, scenarios: [] }]) });
    const { content } = await published(await publish(draft.id, world.author));
    expect(blockOf(content, "market").changed).toEqual({
      since: first,
      levels: [expect.stringMatching(/^Moved: lid, 15 min, 104.* to 105/) as string],
      calls: ["No longer called: A."],
    });
  });
});

describe("what is at hand for the markets of an edition", () => {
  const withBlocks = async (world: World, kinds: ("counts" | "areas" | "record")[]) => {
    const { kind, blocks } = plainDraft("", "Words.", [world.section]);
    const filled = kinds.map((one): Block => ({ kind: one, id: one }));
    const draft = await createDraft(world.author.id);
    await saveDraft(draft.id, { version: 1, title: "At hand", kind, blocks: [...blocks, ...filled] });
    return published(await publish(draft.id, world.author));
  };
  const aCount = async ({ market, author }: World, prices: number[], props: object = {}) => {
    const anchors = prices.map((price, i) => ({ time: START + i * 10 * MINUTE, price }));
    const mark = { id: randomUUID(), kind: "count", rung: "PT1M", anchors, props: { ...props }, note: "" };
    await applySteps(market.id, [{ id: randomUUID(), step: "set", version: 0, mark }], author.id);
  };

  it("are its counts with what ends each, the preferred one first, for plans that show counts alone", async () => {
    const world = await aWorld([100]);
    await aCount(world, [90, 120, 99.5], { role: "alternate", weight: 20 });
    await aCount(world, [90, 120, 99], { role: "preferred", weight: 60 });
    await aCount(world, [90, 120, 98], { role: "archived" });
    const { content, leaves } = await withBlocks(world, ["counts"]);
    const { lines } = blockOf(content, "counts");
    expect(lines.map(({ market, role, weight }) => [market, role, weight])).toEqual([
      [world.market.name, "preferred", 60],
      [world.market.name, "alternate", 20],
    ]);
    for (const { ends } of lines) expect(ends).toMatch(/^(above|below) [\d.]+, [\d.]+ % away: /);
    expect(JSON.stringify(leavesSeen(leaves, ["words", "levels", "scenarios"]))).not.toContain(lines[0].says);
  });

  it("are the areas nearest to price on each side, and why", async () => {
    const world = await aWorld([100]);
    // Levels of two rungs at one price are an area.
    for (const [price, rung] of [
      [103, "PT15M"],
      [103, "PT1H"],
      [97, "PT15M"],
      [97, "PT1H"],
    ] as const) {
      // On the same bars they would be one reason.
      const anchors = [{ time: rung === "PT1H" ? START + 180 * MINUTE : START, price }];
      const mark = { id: randomUUID(), kind: "level", rung, anchors, props: { label: `at ${price}` }, note: "" };
      await applySteps(world.market.id, [{ id: randomUUID(), step: "set", version: 0, mark }], world.author.id);
    }
    const { content } = await withBlocks(world, ["areas"]);
    const { lines } = blockOf(content, "areas");
    expect(lines.map(({ band, rungs }) => [band.slice(0, 3), rungs])).toEqual([
      ["103", ["PT1H", "PT15M"]],
      ["97.", ["PT1H", "PT15M"]],
    ]);
    expect(lines[0].reasons.join()).toMatch(/at 103/);
    expect(lines[0].distance).toBeGreaterThan(0);
    expect(lines[1].distance).toBeLessThan(0);
  });

  it("is the record so far, each call once though it stood in two editions", async () => {
    const before = await recordSoFar();
    const world = await aWorld(UP);
    await publish(world.draft.id, world.author);
    await withBlocks(world, []);
    expect(await recordSoFar()).toMatchObject({ published: before.published + 1, open: before.open + 1 });
    await advance(40);
    const { content, leaves } = await withBlocks(world, ["record"]);
    // Entered at 102 with 2 at risk: half of it at 104, the rest at the entry, in the worst way through its bar.
    const { figures } = blockOf(content, "record");
    expect(figures).toMatchObject({ n: before.n + 1, hits: before.hits + 1 });
    expect(figures.mean! * figures.n - (before.mean ?? 0) * before.n).toBeCloseTo(0.5, 9);
    expect(JSON.stringify(leavesSeen(leaves, ["words", "scenarios"]))).not.toContain('"figures"');
  });

  it("is for whoever writes what ended since, struck with the bar that ended it", async () => {
    const world = await aWorld(UP);
    await aCount(world, [90, 105, 101.5], { role: "preferred" });
    const first = await publish(world.draft.id, world.author);
    const section = () =>
      composeAll({ blocks: plainDraft("", "", [world.section]).blocks, accountId: world.author.id });
    const { blocks } = plainDraft("", "", [world.section]);
    expect(await sinceLast(blocks, await section())).toMatchObject({ "market-1": { since: first, ended: [] } });
    await advance(40);
    const { ended } = (await sinceLast(blocks, await section()))["market-1"];
    const call = ended.find(({ what }) => what === "A");
    expect(call).toMatchObject({ how: expect.stringMatching(/^Stopped at 102\.00\. \+0\.50 R\./) as string });
    expect(call?.at).toBeGreaterThan(START);
  });
});

describe("a draft", () => {
  it("keeps of pasted words what readers may see, and refuses blocks of one id and too many words", async () => {
    const { draft, author } = await aWorld([100]);
    const save = (blocks: unknown[], version = 2) =>
      saveDraft(draft.id, { version, title: "T", kind: "lesson", blocks: blocks as Block[] });
    const script = { type: "doc", content: [{ type: "script", content: [{ type: "text", text: "alert(1)" }] }] };
    const saved = await save([{ kind: "words", id: "a", words: script, more: "x" }]);
    expect(saved.blocks).toEqual([{ kind: "words", id: "a", words: wordsOf("alert(1)") }]);
    const twice = [1, 2].map(() => ({ kind: "recap", id: "a" }));
    expect(await failureOf(save(twice, 3))).toMatchObject({ code: "blocks" });
    const long = { kind: "words", id: "a", words: wordsOf("a".repeat(30_000)) };
    expect(await failureOf(save([long], 3))).toMatchObject({ code: "words" });
    expect((await findDraft(draft.id)).blocks).toEqual(saved.blocks);
    const bare = await createDraft(author.id, { kind: "lesson", blocks: templateOf("lesson", randomUUID).slice(0, 1) });
    expect((await failureOf(publish(bare.id, author))).details.fields).toMatchObject({
      risk: "An outlook needs its risk notice.",
    });
  });
  it("has before it goes out what stands against it, from what the desk holds", async () => {
    const world = await aWorld([100]);
    const { market, draft, section } = world;
    await aLevel(world, 103.5);
    const level = (await composeAll(await findDraft(draft.id))).flatMap(chipOptions).find(({ of }) => of === "mark");
    const sections = [section, { ...section, scenarios: [] }];
    await saveDraft(draft.id, { version: 2, ...plainDraft("T", `Up to ${level?.text}.`, sections) });
    const held = await findDraft(draft.id);
    expect(await beforePublishing(held, await composeAll(held))).toEqual([
      `${market.name}: no call, and no word why there is none.`,
      `${level?.text} is typed by hand, and is ${level?.name}: put in with "/" it stays true.`,
    ]);
  });
  it("goes on from an edition: its words and blocks, open calls, and markets that were watched since", async () => {
    const world = await aWorld(UP);
    const [{ scenario }] = await scenariosOf(world.market.id);
    const number = await publish(world.draft.id, world.author);
    const same = await rollForward(number, world.author.id);
    expect(same.blocks).toEqual((await findDraft(world.draft.id)).blocks);
    expect(same).toMatchObject({ title: "", published: null, version: 1 });
    // Once the call is over it goes; what was written since comes, and a market that was watched gets a section.
    await advance(40);
    const next = { ...scenario, id: randomUUID(), title: "B", role: "alternate" as const, weight: 20 };
    await saveScenario(world.market.id, { version: 0, step: "save", scenario: next }, world.author.id);
    const other = await aWorld([100]);
    const draft = await rollForward(number, world.author.id, [other.market.id, world.market.id]);
    const markets = draft.blocks.filter((block) => block.kind === "market");
    expect(markets.map(({ market, scenarios }) => [market, scenarios])).toEqual([
      [world.market.id, [next.id]],
      [other.market.id, [other.scenario.id]],
    ]);
    expect(draft.blocks.at(-1)?.kind).toBe("risk");
    expect(await failureOf(rollForward(999_999, world.author.id))).toMatchObject({ details: { status: 404 } });
  });
});

describe("a walk-through", () => {
  it("begins as the desk says it, is frozen with a picture for each step, the calls drawn in the last", async () => {
    const world = await aWorld([100], { stop: 97.31, targets: [{ price: 123.45, share: 1 }] });
    const argument = await argumentOf(world.market.id, world.author.id);
    expect(argument.length).toBeGreaterThan(1);
    const rungs = argument.map(({ rung }) => rung);
    expect(rungs).toEqual([...rungs].sort((a, b) => lengthOf(b) - lengthOf(a)));
    for (const { text } of argument) expect(text).toMatch(/ (up|down|sideways)\b.*\.$/);
    const steps = ["PT1H", "PT15M"].map((rung) => ({ rung, text: `On ${rung} it stands.` }));
    const draft = plainDraft("A title", "Words.", [world.section]);
    const walk: Block = { kind: "walk", id: "walk", market: world.market.id, steps };
    await saveDraft(world.draft.id, { ...draft, blocks: [walk, ...draft.blocks], version: 2 });
    const number = await publish(world.draft.id, world.author);
    const { content, leaves } = await published(number);
    const frozen = blockOf(content, "walk");
    expect(frozen.steps.map(({ text, section }) => [section.rung, text])).toEqual(
      steps.map(({ rung, text }) => [rung, text]),
    );
    // The market's section comes first among the pictures, wherever it stands, and the steps behind it.
    const svg = async (chart: number) =>
      (await artefact((await pictureFor(number, chart, "wide", PARTS))!.svgSha256)).toString("utf8");
    expect([await svg(0), await svg(2)].every((text) => text.includes("123.45"))).toBe(true);
    expect(await svg(1)).not.toContain("123.45");
    // A plan without orders is given neither the price nor a picture that shows it.
    const parts = ["words", "pictures", "levels", "scenarios"] as const;
    expect(JSON.stringify(leavesSeen(leaves, parts))).not.toContain("123.45");
    const shown = (await pictureFor(number, 2, "phone", parts))!;
    expect((await artefact(shown.svgSha256)).toString("utf8")).not.toContain("123.45");
    expect((await checkRecord()).faults).toEqual([]);
  });
});
