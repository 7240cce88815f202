import { KIND_NAMES, type EditionKind } from "#core/edition/blocks";
import { canSee } from "#core/edition/parts";
import type { Sight } from "../accounts/plans.ts";
import { searchEditions } from "../publishing/findable.ts";
import { editionsSeen, type FoundEdition } from "./seen.ts";

/** What is looked for in the archive. */
export interface Sought {
  words: string;
  kind?: EditionKind;
  market?: string;
}

/** Editions of one page. */
const PAGE = 30;

export interface Archive {
  /** The best first where words are looked for, otherwise the newest. */
  editions: FoundEdition[];
  count: number;
  pages: number;
}

export function soughtIn(params: URLSearchParams): Sought & { page: number } {
  const kind = KIND_NAMES.find((name) => name === params.get("kind"));
  const market = params.get("market") ?? "";
  const page = Number(params.get("page") ?? 1);
  return {
    words: (params.get("words") ?? "").trim(),
    ...(kind ? { kind } : {}),
    ...(market === "" ? {} : { market: market.slice(0, 60) }),
    page: Number.isInteger(page) && page > 0 && page < 10_000 ? page : 1,
  };
}

/**
 * Editions somebody's plan has. Words are looked for in what the plan shows of editions that may be opened now: what
 * is found, and how much, tells nothing of the rest.
 */
export async function archiveSeen(
  { words, kind, market, page }: Sought & { page: number },
  sight: Sight,
  now = Date.now(),
): Promise<Archive> {
  let found: FoundEdition[] = (await editionsSeen(sight, now)).filter(
    (line) => kind === undefined || line.kind === kind,
  );
  if (market !== undefined) {
    found = found.filter((line) => line.isOpen && line.markets.some(({ id }) => id === market));
  }
  if (words !== "") {
    const order = await searchEditions(words, (see) => canSee(see, sight.parts));
    const byNumber = new Map(found.filter(({ isOpen }) => isOpen).map((line) => [line.number, line]));
    found = order.flatMap((number) => byNumber.get(number) ?? []);
  }
  const pages = Math.max(1, Math.ceil(found.length / PAGE));
  const at = Math.min(page, pages) - 1;
  return { editions: found.slice(at * PAGE, (at + 1) * PAGE), count: found.length, pages };
}
