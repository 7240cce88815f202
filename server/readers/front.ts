import type { EditionKind } from "#core/edition/blocks";
import { canSee } from "#core/edition/parts";
import { textOfWords } from "#core/edition/words";
import type { Sight } from "../accounts/plans.ts";
import { sectionsOf } from "../publishing/content.ts";
import { archiveSeen } from "./archive.ts";
import { callsSeen, changesSeen, type CallLine, type ChangeLine } from "./calls.ts";
import { seeEdition, type FoundEdition } from "./seen.ts";
import { picturesSeen, type PicturesSeen } from "./seenPictures.ts";

/** The newest edition as the front page tells it. */
export interface Lead {
  number: number;
  kind: EditionKind;
  title: string;
  author: string;
  marketTime: number;
  /** How its words begin; empty where the plan does not show them. */
  begins: string;
  markets: { id: string; name: string }[];
  /** Its first chart. */
  picture: { market: string; rung: string; pictures: PicturesSeen } | undefined;
}

export interface Front {
  lead: Lead | undefined;
  /** Editions before it, and those the plan shows later. */
  earlier: FoundEdition[];
  /** Whether the plan shows calls at all: none in force is another thing than none that is shown. */
  showsCalls: boolean;
  inForce: CallLine[];
  changed: ChangeLine[];
}

const BEGINS = 420;
const EARLIER = 12;
const CHANGED = 8;

/** What a reader comes for: the newest, what is in force, and what became of it lately. */
export async function frontSeen(sight: Sight, now = Date.now()): Promise<Front> {
  const { editions } = await archiveSeen({ words: "", page: 1 }, sight, now);
  const newest = editions.find(({ isOpen, corrects }) => isOpen && corrects === null);
  return {
    lead: newest && (await leadOf(newest, sight, now)),
    earlier: editions.filter((one) => one !== newest).slice(0, EARLIER),
    showsCalls: canSee("scenarios", sight.parts),
    inForce: (await callsSeen(sight, now)).filter(({ phase }) => phase !== "done"),
    changed: await changesSeen(sight, now, { limit: CHANGED }),
  };
}

async function leadOf(line: FoundEdition, sight: Sight, now: number): Promise<Lead> {
  const { content } = await seeEdition(String(line.number), sight, now);
  const blocks = content.blocks.filter(Boolean);
  const [words] = blocks.flatMap((block) => (block.kind === "words" ? [textOfWords(block.words)] : []));
  const sections = sectionsOf({ blocks });
  const pictures = await picturesSeen(line.number, sight);
  const first = sections.at(0);
  return {
    ...{ number: line.number, kind: line.kind, title: line.title, marketTime: line.marketTime },
    author: content.author,
    begins: beginningOf(words ?? ""),
    markets: [...new Map(sections.map(({ market: { id, name } }) => [id, { id, name }])).values()],
    picture: first && { market: first.market.name, rung: first.rung, pictures: pictures.get(0) ?? {} },
  };
}

/** Whole sentences, up to about seventy words. */
function beginningOf(text: string): string {
  const plain = text.replace(/\s+/g, " ").trim();
  if (plain.length <= BEGINS) return plain;
  const end = plain.lastIndexOf(". ", BEGINS);
  return end > 80 ? plain.slice(0, end + 1) : `${plain.slice(0, BEGINS).replace(/\s\S*$/, "")} \u2026`;
}
