import type { Sight } from "../accounts/plans.ts";
import type { Voice } from "../database/models.ts";
import { notFound } from "../failure.ts";
import { findVoice } from "../publishing/voices.ts";
import { seeEdition } from "./seen.ts";

/** A block as a reader is shown it, as far as something is said in it. */
type Seen = { steps?: ({ voice?: { sha256: string } | null } | null)[] } | null;

/** What is said at a step of an edition, to whom it is shown. */
export async function seeVoice(number: string, sha256: string, sight: Sight): Promise<Voice> {
  const { edition, content } = await seeEdition(number, sight);
  // Steps that a plan withholds, and whole blocks, are missing or null.
  const shown = (content.blocks as Seen[]).some((block) =>
    block?.steps?.some((step) => step?.voice?.sha256 === sha256),
  );
  if (!shown) throw notFound("recording");
  return findVoice(edition.draftId, sha256);
}
