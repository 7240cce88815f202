import { seeEdition } from "./seen.ts";
import { beforeAll, describe, expect, it } from "vitest";
import { randomUUID } from "node:crypto";
import { PARTS } from "#core/edition/parts";
import { createAccount } from "../accounts/accounts.ts";
import { putOnPlan, savePlan, sightOf, findPlan, WHOLE } from "../accounts/plans.ts";
import { removeOwn } from "../accounts/ownData.ts";
import type { Person } from "../accounts/sessions.ts";
import { findDraft, saveDraft } from "../publishing/drafts.ts";
import { publish } from "../publishing/publish.ts";
import { aWorld } from "../publishingTesting.ts";
import { plainDraft } from "#core/edition/blocks";
import { anAnalyst, failureOf, withTables } from "../testing.ts";
import { asText } from "./asText.ts";
import { ask, decide, questionsAtDesk, questionsSeen, quote } from "./questions.ts";

withTables();

const PASSWORD = "seven herons over slate";
const aReader = async (): Promise<Person> =>
  createAccount({ email: `${randomUUID()}@meridian.example`, name: "Rea", password: PASSWORD }, "subscriber");
const seen = async (who: Person) => questionsSeen(number, who, await sightOf(who));
const question = (words: string, stance: "question" | "disagree" = "question") => ({ stance, about: "", words });

let number = 0;
let world: Awaited<ReturnType<typeof aWorld>>;
let desk: Person;

beforeAll(async () => {
  world = await aWorld([100]);
  desk = { ...(await anAnalyst()), role: "analyst" };
  number = await publish(world.draft.id, world.author);
});

describe("a reader's question", () => {
  it("is shown to others once it was looked at, with its answer, and before that to whoever asked", async () => {
    const [reader, other] = [await aReader(), await aReader()];
    await ask(String(number), question("What would change your mind?"), reader);
    expect(await seen(reader)).toMatchObject([{ words: "What would change your mind?", state: "waiting", own: true }]);
    expect(await seen(other)).toEqual([]);
    const { id } = (await questionsAtDesk()).find(({ who }) => who === "Rea")!;
    await decide(id, "shown", " A close below 99. ", desk);
    expect(await seen(other)).toMatchObject([{ answer: "A close below 99.", answeredBy: desk.name, own: false }]);
    await decide(id, "refused", "", desk);
    expect(await seen(other)).toEqual([]);
    expect(await seen(reader)).toMatchObject([{ state: "refused" }]);
  });

  it("is shown to nobody whose plan shows less than theirs who asked: it may tell a price of an order", async () => {
    const [member, free] = [await aReader(), await aReader()];
    const plan = await findPlan("free");
    await savePlan("free", { ...plan, parts: [...plan.parts], kinds: [...plan.kinds], wait: 0 });
    await putOnPlan(free.id, "free");
    await ask(String(number), question("Why a stop at 97.31?", "disagree"), member);
    const { id, sees } = (await questionsAtDesk()).find(({ words }) => words.includes("97.31"))!;
    expect(sees).toEqual(PARTS);
    await decide(id, "shown", "Below the low.", desk);
    expect(JSON.stringify(await seen(free))).not.toContain("97.31");
    await ask(String(number), question("What is a pivot?"), free);
    const asked = (await questionsAtDesk()).find(({ words }) => words.includes("pivot"))!;
    await decide(asked.id, "shown", "A price.", desk);
    expect(JSON.stringify(await seen(member))).toContain("What is a pivot?");
    expect(JSON.stringify(await seen(free))).toContain("What is a pivot?");
  });

  it("is replied to by others, in one thread, each looked at, and goes with what it replies to", async () => {
    const [reader, other] = [await aReader(), await aReader()];
    await ask(String(number), question("Where does it begin?"), reader);
    const atDesk = async (text: string) => (await questionsAtDesk()).find(({ words }) => words === text)!;
    const { id } = await atDesk("Where does it begin?");
    const reply = (to: string, words: string) => ask(String(number), { ...question(words), to }, other);
    // What is not shown is not replied to, nor what is of another edition or of none.
    expect(await failureOf(reply(id, "Too early."))).toMatchObject({ status: 404 });
    expect(await failureOf(reply(randomUUID(), "Of nothing."))).toMatchObject({ status: 404 });
    await decide(id, "shown", "At 99.", desk);
    await reply(id, "And then?");
    const first = await atDesk("And then?");
    expect(first.to).toBe(id);
    expect((await seen(reader)).map(({ words }) => words)).not.toContain("And then?");
    await decide(first.id, "shown", "", desk);
    await reply(first.id, "A reply to a reply.");
    expect((await atDesk("A reply to a reply.")).to).toBe(id);
    expect(await seen(reader)).toContainEqual(expect.objectContaining({ words: "And then?", to: id, own: false }));
    await decide(id, "refused", "", desk);
    expect((await seen(other)).map(({ words }) => words)).not.toContain("And then?");
  });

  it("is not asked of what may not be seen, nor ten thousand times", async () => {
    const reader = await aReader();
    expect(await failureOf(ask("999", question("Is it there?"), reader))).toMatchObject({ status: 404 });
    const sent = await Promise.allSettled(
      Array.from({ length: 200 }, async (_, i) => {
        await ask(String(number), question(`Number ${i}?`), reader);
      }),
    );
    expect(sent.filter(({ status }) => status === "fulfilled")).toHaveLength(10);
    expect(await failureOf(ask(String(number), question("One more?"), reader))).toMatchObject({
      code: "many",
      status: 429,
    });
  });

  it("is quoted into the next edition with its answer, and stays when its reader has left", async () => {
    const reader = await aReader();
    await ask(String(number), question("How is a stop counted?"), reader);
    const { id } = (await questionsAtDesk()).find(({ words }) => words.includes("counted"))!;
    await decide(id, "shown", "At its price, or where price opens beyond it.", desk);
    const draft = await findDraft(await quote(id, desk));
    expect(draft.accountId).toBe(desk.id);
    // Once more goes into the same draft.
    expect(await quote(id, desk)).toBe(draft.id);
    const { blocks } = await findDraft(draft.id);
    expect(blocks.filter(({ kind }) => kind === "question")).toHaveLength(2);
    const plain = plainDraft("Asked", "Words.", [{ ...world.section, scenarios: [] }]);
    const quoted = blocks.find(({ kind }) => kind === "question")!;
    const { version } = await findDraft(draft.id);
    await saveDraft(draft.id, { ...plain, blocks: [quoted, ...plain.blocks], version });
    const { content } = await seeEdition(String(await publish(draft.id, desk)), WHOLE);
    expect(asText(content)).toContain('"How is a stop counted?"\n\nAt its price, or where price opens beyond it.');
    await removeOwn(reader.id, PASSWORD);
    expect((await questionsAtDesk()).find((one) => one.id === id)).toMatchObject({ who: "somebody who left" });
  });
});
