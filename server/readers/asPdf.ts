import { LRUCache } from "lru-cache";
import { EDITION_KINDS } from "#core/edition/blocks";
import type { Sight } from "../accounts/plans.ts";
import { runTask } from "../pool/pool.ts";
import { artefact } from "../publishing/pictures.ts";
import { mastheadOf } from "../publishing/deskSettings.ts";
import { chartNumbers, type FrozenBlock } from "../publishing/content.ts";
import type { PaperPart } from "../tasks/pdf.ts";
import { textOfBlock } from "./asText.ts";
import { seeEdition } from "./seen.ts";
import { picturesSeen } from "./seenPictures.ts";

/** Papers of the newest editions, for everybody asks for the same: by edition, what is seen of it, and the house. */
const kept = new LRUCache<string, Promise<Uint8Array>>({ max: 20 });

/** An edition as a PDF, as far as somebody is shown it. */
export async function asPdf(number: string, sight: Sight): Promise<{ name: string; bytes: Uint8Array }> {
  const { edition, content } = await seeEdition(number, sight);
  const { name: house } = await mastheadOf();
  const key = JSON.stringify([edition.number, edition.sha256, sight.parts, house]);
  const made = kept.get(key) ?? draw(edition.number, edition.sha256, content, sight, house);
  kept.set(key, made);
  made.catch(() => kept.delete(key));
  return { name: `edition-${edition.number}.pdf`, bytes: await made };
}

async function draw(
  number: number,
  root: string,
  { kind, title, author, publishedAt, blocks }: Awaited<ReturnType<typeof seeEdition>>["content"],
  sight: Sight,
  house: string,
): Promise<Uint8Array> {
  const pictures = await picturesSeen(number, sight);
  const numbers = chartNumbers(blocks);
  const parts = (blocks as (FrozenBlock | null)[]).map(async (block, i): Promise<PaperPart> => {
    const digests = numbers[i].flatMap((index) => pictures.get(index)?.wide || []);
    return { text: block ? textOfBlock(block) : "", pictures: await Promise.all(digests.map(artefact)) };
  });
  const at = `${publishedAt.slice(0, 16).replace("T", " ")} UTC`;
  return runTask("drawPdf", {
    ...{ house, title, author, publishedAt: Date.parse(publishedAt) },
    head: `${EDITION_KINDS[kind].name}, edition ${number}, ${at}, by ${author}`,
    parts: (await Promise.all(parts)).filter(({ text }) => text !== ""),
    foot: `Frozen ${publishedAt}. Root ${root}: by it what stands here is checked, at the desk or by anybody.`,
  });
}
