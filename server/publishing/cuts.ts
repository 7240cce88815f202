import type { BlockKind } from "#core/edition/blocks";
import { seeOfNumber, type See } from "#core/edition/parts";
import type { Chip, Words } from "#core/edition/words";
import type { LevelLine } from "#core/marks/levels";
import type { Cut } from "../record/leaves.ts";
import type { EditionContent, FrozenBlock } from "./content.ts";
import type { FrozenMark, FrozenSection } from "./section.ts";
import { partOfMark, seeOfView } from "./sight.ts";

/** Which part of a plan shows a block apart from what is cut out of it. */
const SEEN_WITH: Record<Exclude<BlockKind, "market" | "walk">, See> = {
  words: "words",
  calendar: "all",
  recap: "scenarios",
  ranking: "scenarios",
  board: "words",
  counts: "counts",
  areas: "levels",
  record: "scenarios+orders",
  question: "words",
  risk: "all",
};

/** Where an edition is cut, so that each thing a plan may show or withhold is a leaf of its own. */
export function cutsOf({ blocks }: Pick<EditionContent, "blocks">): Cut[] {
  return blocks.flatMap((block, i): Cut[] => {
    const path = `blocks/${i}`;
    if (block.kind === "walk")
      return block.steps.flatMap(({ section, voice }, n): Cut[] => [
        { path: `${path}/steps/${n}/text`, see: "words" },
        ...(voice ? [{ path: `${path}/steps/${n}/voice`, see: "words" as const }] : []),
        ...sectionCuts(section, `${path}/steps/${n}/section`),
      ]);
    if (block.kind !== "market") return [{ path, see: SEEN_WITH[block.kind] }, ...cutsWithin(block, path)];
    return [
      ...(block.words ? wordsCuts(block.words, `${path}/words`) : []),
      ...(block.changed
        ? [
            { path: `${path}/changed/levels`, see: "levels" as const },
            { path: `${path}/changed/calls`, see: "scenarios" as const },
          ]
        : []),
      ...sectionCuts(block.section, `${path}/section`),
    ];
  });
}

/** What of a block of one part asks for another one, too. */
function cutsWithin(block: FrozenBlock, path: string): Cut[] {
  switch (block.kind) {
    case "words":
      return chipCuts(block.words, `${path}/words`);
    case "recap":
      return block.lines.flatMap((line, n) =>
        (["since", "stands"] as const)
          .filter((name) => name in line)
          .map((name): Cut => ({ path: `${path}/lines/${n}/${name}`, see: "scenarios+orders" })),
      );
    case "ranking":
      return block.lines.flatMap(({ reward }, n): Cut[] =>
        reward === undefined ? [] : [{ path: `${path}/lines/${n}/reward`, see: "scenarios+orders" }],
      );
    case "areas":
      return block.lines.flatMap(({ counted }, n): Cut[] =>
        counted ? [{ path: `${path}/lines/${n}`, see: "levels+counts" }] : [],
      );
    default:
      return [];
  }
}

function sectionCuts(section: FrozenSection, path: string): Cut[] {
  return [
    ...(section.horizons ? [{ path: `${path}/horizons`, see: "words" as const }] : []),
    { path: `${path}/levels`, see: "levels" },
    ...section.levels.flatMap((line, n): Cut[] => {
      const see = seeOfLevel(line);
      return see === "levels" ? [] : [{ path: `${path}/levels/${n}`, see }];
    }),
    { path: `${path}/bars`, see: "pictures" },
    { path: `${path}/marks`, see: "pictures" },
    ...section.marks.flatMap((mark, n): Cut[] => {
      const part = partOfFrozen(mark);
      return part ? [{ path: `${path}/marks/${n}`, see: `pictures+${part}` }] : [];
    }),
    ...(section.picture ? [{ path: `${path}/picture`, see: seeOfView("") }] : []),
    ...Object.keys(section.pictures ?? {}).map((name): Cut => ({
      path: `${path}/pictures/${name}`,
      see: seeOfView(name),
    })),
    ...section.scenarios.flatMap((scenario, n): Cut[] => [
      { path: `${path}/scenarios/${n}`, see: "scenarios" },
      ...ordersIn(scenario).map((name): Cut => ({
        path: `${path}/scenarios/${n}/${name}`,
        see: "scenarios+orders",
      })),
    ]),
  ];
}

/** A line of the table that is there for another part of the edition is seen with that one. */
function seeOfLevel({ role, counted, used }: LevelLine): See {
  const parts = ["levels", ...(counted || role === "kill" ? ["counts"] : []), ...(used ? ["orders"] : [])];
  return parts.join("+") as See;
}

/** Marks of the first format stand within what was said of them. */
function partOfFrozen(frozen: FrozenMark | { mark: FrozenMark }): string | undefined {
  return partOfMark("mark" in frozen ? frozen.mark.kind : frozen.kind);
}

const ORDERS = ["legs", "entry", "stop", "targets", "trail", "breakEven"];

/** What of a scenario is its entries, stops and targets; where it is wrong goes with the scenario. */
function ordersIn(scenario: FrozenSection["scenarios"][number]): string[] {
  if (!("terms" in scenario)) return ORDERS.filter((name) => name in scenario);
  return ORDERS.filter((name) => name in scenario.terms).map((name) => `terms/${name}`);
}

function wordsCuts(words: Words, path: string): Cut[] {
  return [{ path, see: "words" }, ...chipCuts(words, path)];
}

/** Numbers within words that a plan may withhold while it shows the words. */
function chipCuts(node: object, path: string): Cut[] {
  const { type, attrs, content } = node as { type?: string; attrs?: Chip; content?: object[] };
  const see = type === "chip" && attrs ? seeOfNumber(attrs) : "all";
  if (see !== "all") return [{ path: `${path}/attrs/text`, see: `words+${see}` }];
  return (content ?? []).flatMap((one, n) => chipCuts(one, `${path}/content/${n}`));
}
