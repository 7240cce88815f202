import { createHash } from "node:crypto";
import { describe, expect, it } from "vitest";
import { LARGEST_VOICE } from "#contracts/draft";
import { RISK, type Block, type SpokenStep } from "#core/edition/blocks";
import { wordsOf } from "#core/edition/words";
import { WHOLE } from "../accounts/plans.ts";
import { Edition, Voice } from "../database/models.ts";
import { aWorld } from "../publishingTesting.ts";
import { seeVoice } from "../readers/seenVoices.ts";
import { recordFile } from "../record/file.ts";
import { verifyRecord } from "../record/verify.ts";
import { failureOf, withTables } from "../testing.ts";
import { findDraft, saveDraft } from "./drafts.ts";
import { publish } from "./publish.ts";
import { rollForward } from "./rollForward.ts";
import { findVoice, storeVoice } from "./voices.ts";

withTables();

/** The head of an EBML file (RFC 8794, section 11.2.1), which WebM is one of, and something behind it. */
const webm = (text: string) => Buffer.concat([Buffer.from([0x1a, 0x45, 0xdf, 0xa3]), Buffer.from(text)]);
const digestOf = (bytes: Buffer) => createHash("sha256").update(bytes).digest("hex");

async function aWalk(voice?: (draft: string) => Promise<SpokenStep>) {
  const { draft, author, market } = await aWorld(Array.from({ length: 30 }, () => 100));
  const spoken = await voice?.(draft.id);
  const blocks: Block[] = [
    { kind: "words", id: "words", words: wordsOf("Words.") },
    {
      ...{ kind: "walk", id: "walk", market: market.id },
      steps: [
        { rung: "PT15M", text: "The quarter hour is up.", ...(spoken ? { voice: spoken } : {}) },
        { rung: "PT5M", text: "Five minutes agree." },
      ],
    },
    { kind: "risk", id: "risk", text: RISK },
  ];
  await saveDraft(draft.id, { version: 2, title: "Spoken", kind: "lesson", blocks: blocks as never });
  return { draft, author, market };
}

const said = async (draft: string) => ({
  ...{ sha256: await storeVoice(draft, webm("one")), seconds: 3.2 },
  said: "The quarter hour is up.",
});

describe("what is said aloud at a step", () => {
  it("is frozen with it, heard by whoever is shown words and by nobody else, and goes with its day", async () => {
    const { draft, author } = await aWalk(said);
    const number = await publish(draft.id, author);
    const sha256 = digestOf(webm("one"));
    expect(await seeVoice(String(number), sha256, WHOLE)).toMatchObject({ type: "audio/webm", bytes: webm("one") });
    const wordless = { ...WHOLE, parts: WHOLE.parts.filter((part) => part !== "words") };
    expect(await failureOf(seeVoice(String(number), sha256, wordless))).toMatchObject({ status: 404 });
    const of = async (id: string) => (await findDraft(id)).blocks.find((block) => block.kind === "walk");
    expect((await of(draft.id))?.steps[0].voice).toMatchObject({ seconds: 3.2 });
    expect((await of((await rollForward(number, author.id)).id))?.steps[0]).toEqual({
      ...{ rung: "PT15M", text: "The quarter hour is up." },
    });
    expect((await Edition.findByPk(number))?.canonical).toContain(sha256);
    expect(await failureOf(storeVoice(draft.id, webm("late")))).toMatchObject({ code: "voice" });
  });

  it("of a draft that was taken out again, or of another edition, is heard by nobody", async () => {
    const { draft, author } = await aWalk(said);
    const other = await storeVoice(draft.id, webm("taken out"));
    const number = await publish(draft.id, author);
    expect(await failureOf(seeVoice(String(number), other, WHOLE))).toMatchObject({ status: 404 });
    const second = await aWalk();
    const silent = await publish(second.draft.id, second.author);
    expect(await failureOf(seeVoice(String(silent), digestOf(webm("one")), WHOLE))).toMatchObject({ status: 404 });
  });

  it("cannot be exchanged afterwards without the verifier saying so", async () => {
    const { draft, author } = await aWalk(said);
    const number = await publish(draft.id, author);
    const faults = async () => verifyRecord(await recordFile()).filter((one) => one.includes("said"));
    expect(await faults()).toEqual([]);
    await Voice.update({ bytes: webm("two") }, { where: { draftId: draft.id } });
    expect(await faults()).toEqual([`Edition ${number}: what is said at a step is not what was published.`]);
  });

  it("must be a recording, and no larger than is said", async () => {
    const { draft } = await aWalk();
    for (const bytes of [Buffer.from("<script>alert(1)</script>"), Buffer.alloc(0), Buffer.alloc(20)])
      expect(await failureOf(storeVoice(draft.id, bytes))).toMatchObject({
        sentence: "This is no recording the desk can play.",
      });
    expect(await failureOf(storeVoice(draft.id, webm("x".repeat(LARGEST_VOICE))))).toMatchObject({
      sentence: "The recording is larger than 2 MB.",
    });
    // Ogg pages begin with "OggS" (RFC 3533, section 6); MPEG-4 files have "ftyp" behind the first length.
    const ogg = await storeVoice(draft.id, Buffer.from("OggS and more"));
    expect((await findVoice(draft.id, ogg)).type).toBe("audio/ogg");
    const mp4 = await storeVoice(draft.id, Buffer.from("\0\0\0\x20ftypisom"));
    expect((await findVoice(draft.id, mp4)).type).toBe("audio/mp4");
  });

  it("must be there when the edition that names it goes out", async () => {
    const { draft, author } = await aWalk(() =>
      Promise.resolve({ sha256: "0".repeat(64), seconds: 1, said: "Nothing." }),
    );
    expect(await failureOf(publish(draft.id, author))).toMatchObject({
      sentence: "What is said at a step of a walk is not stored.",
    });
    expect((await findDraft(draft.id)).published).toBeNull();
  });
});
