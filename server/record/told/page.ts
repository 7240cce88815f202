import type { CalendarSpec } from "#core/time/calendar";
import { canonicalText, sha256 } from "../../canonical.ts";
import { GENESIS } from "../entry.ts";
import { isSigned, signerOf, type PublicKeys } from "../../signing.ts";

/** By what the bars of a market are read. */
export interface ToldMarket {
  market: string;
  tick: number;
  calendar: CalendarSpec;
  /** How often its closed bars had been changed by then. */
  history: number;
}

/** What a generation of pages begins with: all that its bars are read by. */
export interface ToldFacts extends ToldMarket {
  /** Bars on each side of a swing. */
  k: number;
  /** From when on bars of before are kept (ms UTC); none where all are. */
  from: number | null;
  /** Other markets that are told beside, each from when on; rows name them by their place, from 1. */
  also: (ToldMarket & { from: number | null })[];
  /**
   * Calls that were followed before pages were kept: where they stood then, as the desk had it. They are worked out
   * from there on.
   */
  adopted?: Record<string, { state: unknown; events: number }>;
}

/** A page of what calls on a market were told. */
export interface ToldPage {
  market: string;
  /** From 1. */
  number: number;
  generation: number;
  warm: boolean;
  /** On the first page of a generation. */
  facts: ToldFacts | null;
  /** How many bars are on it. */
  bars: number;
  /** Closing of its last own bar, or where the generation goes on from; none before any bar. */
  through: number | null;
  /** SHA-256 of its bars as they are stored. */
  bytes: string;
  previous: string;
  sha256: string;
  keyId: string;
  signature: string;
}

type Unsealed = Omit<ToldPage, "sha256" | "keyId" | "signature">;

export function pageSha({ market, number, generation, warm, facts, bars, through, bytes, previous }: Unsealed): string {
  const page = { market, number, generation, warm, facts, bars, through, bytes, previous };
  return sha256(canonicalText({ format: "even-compass-told-1", ...page }));
}

export function sealedPage(page: Unsealed): ToldPage {
  const signer = signerOf();
  const sha = pageSha(page);
  return { ...page, sha256: sha, keyId: signer.keyId, signature: signer.sign(sha) };
}

/** What is wrong with pages of one market, in their order, beside their bars; nothing where they hold. */
export function pagesFault(
  pages: readonly ToldPage[],
  keys: PublicKeys,
  { number = 0, sha256: before = GENESIS }: { number?: number; sha256?: string } = {},
): string | undefined {
  let previous = before;
  for (const [i, page] of pages.entries()) {
    const name = `Page ${number + i + 1} of what calls on ${page.market} were told`;
    if (page.number !== number + i + 1) return `${name} is missing.`;
    if (page.previous !== previous) return `${name} does not follow the one before.`;
    if (pageSha(page) !== page.sha256) return `${name} is not what was sealed.`;
    if (!isSigned(page.sha256, page.signature, keys[page.keyId]))
      return `${name} is not signed by a key of this record.`;
    previous = page.sha256;
  }
  return undefined;
}
