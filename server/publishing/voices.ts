import { createHash } from "node:crypto";
import { LARGEST_VOICE } from "#contracts/draft";
import { voicesOf } from "#core/edition/blocks";
import { Voice, type Draft } from "../database/models.ts";
import { Failure, notFound } from "../failure.ts";
import { findDraft } from "./drafts.ts";

/** Recordings of one draft, taken out ones among them. */
const MOST_VOICES = 60;

/** What browsers record, known by its first bytes and not by what it says it is: WebM, Ogg (RFC 3533), MPEG-4. */
function typeOf(bytes: Buffer): string | undefined {
  if (bytes.subarray(0, 4).equals(Buffer.from([0x1a, 0x45, 0xdf, 0xa3]))) return "audio/webm";
  if (bytes.subarray(0, 4).toString("latin1") === "OggS") return "audio/ogg";
  return bytes.subarray(4, 8).toString("latin1") === "ftyp" ? "audio/mp4" : undefined;
}

/** Stores what was said at a step of a draft; its digest. */
export async function storeVoice(draft: string, bytes: Buffer): Promise<string> {
  const { id: draftId, published } = await findDraft(draft);
  const refuse = (sentence: string, remedy: string) =>
    new Failure("voice", sentence, { kept: "The recording was not stored; the draft is as it was.", remedy });
  if (published !== null) throw refuse("This outlook has been published and is frozen.", "Begin a new one.");
  const type = typeOf(bytes);
  if (!type) throw refuse("This is no recording the desk can play.", "Record it on this page.");
  if (bytes.length > LARGEST_VOICE) throw refuse("The recording is larger than 2 MB.", "Say it in fewer words.");
  if ((await Voice.count({ where: { draftId } })) >= MOST_VOICES)
    throw refuse(`This draft has ${MOST_VOICES} recordings already.`, "Begin a new draft.");
  const sha256 = createHash("sha256").update(bytes).digest("hex");
  await Voice.bulkCreate([{ sha256, draftId, type, bytes, storedAt: Date.now() }], { ignoreDuplicates: true });
  return sha256;
}

/** A recording of a draft. */
export async function findVoice(draftId: string, sha256: string): Promise<Voice> {
  const voice = await Voice.findOne({ where: { draftId, sha256 } });
  if (!voice) throw notFound("recording");
  return voice;
}

/** Refuses a draft that names a recording it has not. */
export async function checkVoices({ id: draftId, blocks }: Draft): Promise<void> {
  const named = voicesOf(blocks).map(({ sha256 }) => sha256);
  const there = await Voice.count({ where: { draftId, sha256: named } });
  if (there < new Set(named).size)
    throw new Failure("voice", "What is said at a step of a walk is not stored.", {
      kept: "The draft is saved; nothing was published.",
      remedy: "Take the voice out there, or record it once more.",
    });
}
