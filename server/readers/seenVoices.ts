import type { Sight } from "../accounts/plans.ts";
import type { Voice } from "../database/models.ts";
import { notFound } from "../failure.ts";
import { findVoice } from "../publishing/voices.ts";
import { seeEdition } from "./seen.ts";

/** What is said at a step of an edition, to whom it is shown. */
export async function seeVoice(number: string, sha256: string, sight: Sight): Promise<Voice> {
  const { edition, content } = await seeEdition(number, sight);
  // What a plan withholds is missing from the steps, or null.
  const shown = content.blocks.some(
    (block) => (block as typeof block | null)?.kind === "walk" && saysOne(block, sha256),
  );
  if (!shown) throw notFound("recording");
  return findVoice(edition.draftId, sha256);
}

const saysOne = (block: object, sha256: string) =>
  ((block as { steps?: ({ voice?: { sha256: string } | null } | null)[] }).steps ?? []).some(
    (step) => step?.voice?.sha256 === sha256,
  );
