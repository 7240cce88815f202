import { ABOUT_NONE, type Condition, type Judged, type Kinds, type Look, type Met } from "#core/conditions/condition";
import type { Terms } from "#core/conditions/registry";
import type { Need } from "#core/observe/tape";

/** A part's state, and how it stood at the last close of its own rung; not known before the first. */
interface Part {
  state: unknown;
  stands?: boolean;
  by?: Met;
}

export interface CombineTerms<On extends string> {
  on: On;
  of: readonly Terms[];
}

/** How the parts stand together: met, failed, or not to be known yet. */
type Verdict = (stands: readonly (boolean | undefined)[]) => boolean | undefined;

function combined<On extends "all" | "any" | "not">(
  kinds: Kinds,
  on: On,
  most: number,
  verdict: Verdict,
  join: (said: readonly string[]) => string,
): Condition<CombineTerms<On>, Part[]> {
  return {
    on,
    read: (fields) => ({
      on,
      of: fields.list("of", 1, most).map((one, i) => kinds.read(one, `${fields.path}.of[${i}]`, fields)),
    }),
    needs: ({ of }) => of.flatMap((terms): readonly Need[] => kinds.of(terms).needs(terms)),
    start: ({ of }) => of.map((terms) => ({ state: kinds.of(terms).start(terms) })),
    next({ of }, parts, look) {
      const next = of.map((terms, i) => advance(kinds, terms, parts[i], look));
      const met = verdict(next.map(({ stands }) => stands));
      const { high, low, close } = look.moment.told;
      // What a part left of itself goes on: a step that names it finds its extreme or its swing.
      const by = next.find((part) => part.stands && part.by)?.by ?? { high, low, close };
      const judged: Judged = { ...(met === undefined ? {} : { met }), by };
      return { state: next, judged: look.moment.told.from >= look.since ? [judged] : [] };
    },
    ...(on === "not" ? { binds: () => [], ...ABOUT_NONE } : madeOf(kinds)),
    say: ({ of }, market) => join(of.map((terms) => kinds.of(terms).say(terms, market))),
  };
}

/** What several are about is what the first of them is about that is about a price at all. */
function madeOf<On extends string>(
  kinds: Kinds,
): Pick<Condition<CombineTerms<On>, Part[]>, "binds" | "about" | "needed" | "turns"> {
  return {
    binds: ({ of }) => [...new Set(of.flatMap((one) => kinds.of(one).binds(one)))],
    about: ({ of }, at) => of.map((one) => kinds.of(one).about(one, at)).find((price) => price !== undefined),
    // The one that makes the dearest entry: what is shown is never better than what may come.
    needed: ({ of }, at, long) =>
      of
        .flatMap((one) => kinds.of(one).needed(one, at, long) ?? [])
        .sort((a, b) => (long ? b.price - a.price : a.price - b.price))
        .at(0),
    turns: ({ of }, at, beyond) =>
      of.map((one) => kinds.of(one).turns(one, at, beyond)).find((turns) => turns.length > 0) ?? [],
  };
}

function advance(kinds: Kinds, terms: Terms, part: Part, look: Look): Part {
  const { state, judged } = kinds.of(terms).next(terms, part.state, look);
  const last = judged.at(-1);
  return last ? { state, by: last.by, ...(last.met === undefined ? {} : { stands: last.met }) } : { ...part, state };
}

const isMet = (stands: boolean | undefined) => stands === true;
const isFailed = (stands: boolean | undefined) => stands === false;

/** Every part stands at this told bar. */
export const allOf = (kinds: Kinds) =>
  combined(
    kinds,
    "all",
    20,
    (stands) => (stands.every(isMet) ? true : stands.some(isFailed) ? false : undefined),
    (said) => said.join(" and "),
  );

/** At least one part stands. */
export const anyOf = (kinds: Kinds) =>
  combined(
    kinds,
    "any",
    20,
    (stands) => (stands.some(isMet) ? true : stands.every(isFailed) ? false : undefined),
    (said) => said.join(" or "),
  );

/** Its only part does not stand; what is not known is not known here either. */
export const notOf = (kinds: Kinds) =>
  combined(
    kinds,
    "not",
    1,
    ([stands]) => (stands === undefined ? undefined : !stands),
    ([said]) => `it is not so that ${said}`,
  );
