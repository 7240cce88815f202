import { eventSeen } from "#core/edition/eventParts";
import { canSee } from "#core/edition/parts";
import { shownFrom, type PublishedAt } from "#core/readers/wait";
import { Failure, notFound } from "../failure.ts";
import { contentOf, type EditionContent, type Seen } from "../publishing/content.ts";
import { followedIn, ofCalls } from "../publishing/calls.ts";
import { cutsOf } from "../publishing/cuts.ts";
import { findEdition, followUpsOf, lineOf, listEditions, notesOf, type EditionLine } from "../publishing/editions.ts";
import type { StoredFollowUp, StoredNote } from "../publishing/editions.ts";
import {
  assembled,
  cutLeaves,
  leavesOf,
  leavesSeen,
  provenLeaves,
  type Leaf,
  type ProvenLeaf,
} from "../record/leaves.ts";
import { standingsOf, type Standing } from "../watch/standing.ts";
import { correctionsOf, type Correction } from "../publishing/corrections.ts";
import { WHOLE, type Sight } from "../accounts/plans.ts";

/** When somebody may see an edition; `undefined` for never. */
export function seenFrom(edition: PublishedAt & Pick<EditionLine, "kind">, sight: Sight): number | undefined {
  return sight.kinds.includes(edition.kind) ? shownFrom(edition, sight.wait) : undefined;
}

/** An edition of a kind somebody's plan has, with when they may see it. */
export interface FoundEdition extends EditionLine {
  from: number;
  isOpen: boolean;
}

/** Editions of kinds somebody's plan has, the newest first. */
export async function editionsSeen(sight: Sight, now = Date.now()): Promise<FoundEdition[]> {
  return (await listEditions()).flatMap((line): FoundEdition[] => {
    const from = seenFrom(line, sight);
    if (from === undefined) return [];
    // A title is words: of an edition that waits it is told that it is there, and from when on it is shown.
    return from <= now ? [{ ...line, from, isOpen: true }] : [{ ...line, ...WAITING, from, isOpen: false }];
  });
}

/** What is told of an edition that a plan shows later. */
const WAITING = { title: "", markets: [], corrects: null };

/** The part of an edition somebody may see; a Failure that says when, where that is later. */
export async function seeEdition(text: string, sight: Sight, now = Date.now()) {
  const { edition, content } = await findEdition(text);
  // Of kinds that are not on the plan nobody is told whether they are there.
  const from = seenFrom(lineOf(content, edition), sight);
  if (from === undefined) throw notFound("outlook");
  if (from > now)
    throw new Failure("later", "Your plan shows this outlook later.", {
      status: 403,
      until: from,
      remedy: `It will stand here from ${new Date(from).toISOString().slice(0, 16).replace("T", " ")} UTC on.`,
    });
  return { edition, content: contentSeen(edition.canonical, content, sight), isWhole: isWhole(sight) };
}

export const isWhole = ({ parts }: Sight) => parts.length === WHOLE.parts.length;

/** What of an edition somebody may see: what is withheld is missing, or null in a list. */
const contentSeen = (canonical: string, content: EditionContent, sight: Sight): Seen<EditionContent> =>
  seenOf(leavesIn(canonical, content), sight);

const seenOf = (leaves: readonly Leaf[], { parts }: Sight) =>
  assembled(leavesSeen(leaves, parts)) as unknown as Seen<EditionContent>;

/** What somebody would see of an edition that is not published yet. */
export function wouldSee(content: EditionContent, sight: Sight): Seen<EditionContent> {
  return seenOf(cutLeaves(content, cutsOf(content)), sight);
}

/** Editions from before there were leaves are cut now: nothing of them is proven one by one. */
function leavesIn(canonical: string, content: EditionContent): Leaf[] {
  return leavesOf(canonical) ?? cutLeaves(content, cutsOf(content), () => "");
}

/** The leaves of an edition somebody may see, each with its proof; `undefined` of one that has none to prove. */
export function provenSeen(canonical: string, sight: Sight): ProvenLeaf[] | undefined {
  const leaves = leavesOf(canonical);
  return leaves && provenLeaves(leaves, sight.parts);
}

/** What became of an edition: its calls, and what was said of it later. */
export interface Became {
  followUps: StoredFollowUp[];
  notes: StoredNote[];
  standings: Standing[];
  corrections: Correction[];
}

export async function becameOf(
  number: number,
  content: Seen<EditionContent>,
  sight: Sight,
  now = Date.now(),
): Promise<Became> {
  const withOrders = canSee("scenarios+orders", sight.parts);
  const followed = followedIn(number, content);
  return {
    followUps: (await ofCalls(followed, followUpsOf)).flatMap(({ event, ...rest }) => {
      const seen = eventSeen(event, sight.parts);
      return seen ? [{ ...rest, event: seen }] : [];
    }),
    notes: withOrders ? await ofCalls(followed, notesOf) : [],
    standings: withOrders ? await ofCalls(followed, standingsOf) : [],
    corrections: canSee("words", sight.parts) ? await correctionsSeen(number, content, sight, now) : [],
  };
}

/** What was said of an edition later, by editions somebody may open now. */
async function correctionsSeen(
  number: number,
  content: EditionContent,
  sight: Sight,
  now: number,
): Promise<Correction[]> {
  const open = (await editionsSeen(sight, now)).filter(({ isOpen, corrects }) => isOpen && corrects === number);
  return correctionsOf(
    open.map((line) => line.number),
    content,
    (canonical) => contentSeen(canonical, contentOf(canonical), sight),
  );
}
