import { seeOfNumber, type See } from "#core/edition/parts";
import type { Chip } from "#core/edition/words";
import type { LevelLine } from "#core/marks/levels";
import type { Scenario } from "#core/scenarios/scenario";
import type { ScenarioTerms } from "#core/scenarios/terms";
import type { Frozen, Written } from "#core/written/written";
import type {
  AreaLine,
  BoardLine,
  CalendarLine,
  CountsLine,
  EditionContent,
  FrozenBlock,
  FrozenStep,
} from "./content.ts";
import type { RankingLine, RecapLine } from "./content.ts";
import type { FrozenMark, FrozenSection } from "./section.ts";
import { partOfMark, seeOfView } from "./sight.ts";

/**
 * Which parts of a plan show what of an edition: one table, and nothing is shown that is not in it. A field that a type
 * has and the table has not does not compile; one that a value has and the table has not is not published.
 */
export interface Rule {
  /** The parts that show it; those of what it stands in where none are named. */
  see?: See;
  /** Its fields, each by a rule of its own. */
  fields?: Readonly<Record<string, Rule>>;
  /** Who sees fields that are not named: nobody, and they are not published, unless it says so. */
  rest?: See;
  /** A list, each of its items by the rule it has. */
  each?: (item: unknown) => Rule;
  /** Whatever stands in it under a name, by that name. */
  named?: (name: string) => Rule;
  /** Words: the numbers within them may ask for more. */
  words?: true;
}

export type Fields<T> = { readonly [K in keyof Required<T>]: Rule };

const of = <T>(fields: Fields<T>, see?: See): Rule => (see === undefined ? { fields } : { fields, see });
const listOf = <T>(rule: (item: T) => Rule, see?: See): Rule => ({
  each: (item) => rule(item as T),
  ...(see === undefined ? {} : { see }),
});
/** Shown with what it stands in. */
const along: Rule = {};
const seen = (see: See): Rule => ({ see });

const ORDERS: See = "scenarios+orders";

/** A call: where it is wrong goes with it, its entries, stops and targets do not. */
const TERMS: Rule = {
  ...of<ScenarioTerms & { legs: unknown }>({
    direction: along,
    while: along,
    if: along,
    unless: along,
    wrong: along,
    expires: along,
    leastReward: along,
    cost: along,
    through: along,
    entry: seen(ORDERS),
    stop: seen(ORDERS),
    targets: seen(ORDERS),
    trail: seen(ORDERS),
    breakEven: seen(ORDERS),
    legs: seen(ORDERS),
  }),
  // Terms are followed as they were written: what the table does not know is kept, and seen by the fewest.
  rest: ORDERS,
};

const CALL = of<Frozen & Pick<Written, "restsOn">>(
  {
    ...{ format: along, id: along, title: along, premise: along, rank: along, role: along, weight: along },
    ...{ restsOn: along, pair: along, calledIn: along },
    terms: TERMS,
  },
  "scenarios",
);

/** A call of the first format. */
const FORMER_CALL = of<Scenario>(
  {
    ...{ id: along, title: along, premise: along, direction: along, trigger: along, invalidation: along },
    ...{ expiry: along, restsOn: along, entry: seen(ORDERS), stop: seen(ORDERS), targets: seen(ORDERS) },
  },
  "scenarios",
);

/** A line of the table that is there for another part of the edition is seen with that one, too. */
function levelRule({ role, counted, used }: LevelLine): Rule {
  const parts = ["levels", ...(counted || role === "kill" ? ["counts"] : []), ...(used ? ["orders"] : [])];
  const fields: Fields<LevelLine> = {
    ...{ bottom: along, top: along, role: along, label: along, rung: along, status: along, distance: along },
    ...{ used: along, counted: along },
  };
  return of<LevelLine>(fields, parts.join("+") as See);
}

/** A mark as it is drawn; those of the first format stand within what was said of them. */
function markRule(mark: FrozenMark | { mark: FrozenMark }): Rule {
  const kind = "mark" in mark ? mark.mark.kind : mark.kind;
  const see = `pictures+${partOfMark(kind)}` as See;
  if ("mark" in mark) return seen(see);
  return of<FrozenMark>({ kind: along, rung: along, anchors: along, props: along }, see);
}

const SECTION = of<FrozenSection>({
  ...{ market: along, calendar: along, revision: along, rung: along },
  bars: seen("pictures"),
  marks: listOf(markRule, "pictures"),
  levels: listOf(levelRule, "levels"),
  scenarios: listOf((one: Frozen | Scenario) => ("terms" in one ? CALL : FORMER_CALL)),
  horizons: seen("words"),
  studies: seen("words"),
  pictures: { named: (name) => seen(seeOfView(name)) },
  picture: seen(seeOfView("")),
});

const WORDS: Rule = { see: "words", words: true };

type BlockOf<K extends FrozenBlock["kind"]> = Extract<FrozenBlock, { kind: K }>;

/** What is shown of each kind of block, and with which parts of a plan. */
const BLOCKS: { readonly [K in FrozenBlock["kind"]]: Rule } = {
  words: of<BlockOf<"words">>({ kind: along, words: { words: true } }, "words"),
  market: of<BlockOf<"market">>({
    kind: along,
    section: SECTION,
    words: WORDS,
    changed: { fields: { since: along, levels: seen("levels"), calls: seen("scenarios") } },
  }),
  walk: of<BlockOf<"walk">>({
    ...{ kind: along, market: along },
    steps: listOf(() => of<FrozenStep>({ text: seen("words"), section: SECTION, voice: seen("words") })),
  }),
  calendar: of<BlockOf<"calendar">>(
    {
      ...{ kind: along, days: along },
      lines: listOf(() => of<CalendarLine>({ at: along, allDay: along, title: along, impact: along })),
    },
    "all",
  ),
  recap: of<BlockOf<"recap">>(
    {
      kind: along,
      lines: listOf(() =>
        of<RecapLine>({ edition: along, title: along, market: along, since: seen(ORDERS), stands: seen(ORDERS) }),
      ),
    },
    "scenarios",
  ),
  ranking: of<BlockOf<"ranking">>(
    {
      kind: along,
      lines: listOf(() =>
        of<RankingLine>({
          ...{ market: along, title: along, direction: along, rank: along, role: along, weight: along },
          reward: seen(ORDERS),
        }),
      ),
    },
    "scenarios",
  ),
  board: of<BlockOf<"board">>(
    { kind: along, lines: listOf(() => of<BoardLine>({ market: along, views: along })) },
    "words",
  ),
  counts: of<BlockOf<"counts">>(
    {
      kind: along,
      lines: listOf(() =>
        of<CountsLine>({ market: along, rung: along, role: along, weight: along, says: along, ends: along }),
      ),
    },
    "counts",
  ),
  areas: of<BlockOf<"areas">>(
    {
      kind: along,
      lines: listOf(({ counted }: AreaLine) => {
        const fields: Fields<AreaLine> = {
          ...{ market: along, band: along, distance: along, weight: along, rungs: along, reasons: along },
          counted: along,
        };
        return counted ? of<AreaLine>(fields, "levels+counts") : of<AreaLine>(fields);
      }),
    },
    "levels",
  ),
  record: of<BlockOf<"record">>({ kind: along, figures: along }, ORDERS),
  question: of<BlockOf<"question">>({ kind: along, asked: along, answer: along }, "words"),
  risk: of<BlockOf<"risk">>({ kind: along, text: along }, "all"),
};

/** A block that no table names is shown to nobody. */
const UNKNOWN: Rule = { see: "desk" };

/** An edition: its head is shown to whoever may open it, its blocks as their kinds say. */
export const EDITION = of<EditionContent>(
  {
    ...{ number: along, previous: along, kind: along, publishedAt: along, marketTime: along, closesAt: along },
    ...{ author: along, publishedBy: along, title: along, corrects: along },
    blocks: listOf(({ kind }: FrozenBlock) => (Object.hasOwn(BLOCKS, kind) ? BLOCKS[kind] : UNKNOWN)),
  },
  "all",
);

/** Which parts show a number within words. */
export const seeOfChip = (chip: Chip): See => seeOfNumber(chip);
