import { marketsIn, type EditionKind } from "#core/edition/blocks";
import { textOfWords } from "#core/edition/words";
import { checkWritten } from "#core/written/check";
import { setProblem } from "#core/written/sets";
import type { Written } from "#core/written/written";
import type { Draft } from "../database/models.ts";
import { Failure } from "../failure.ts";
import type { Section } from "./section.ts";

/** Kinds of edition that may speak of no market of their own. */
const OF_NONE: readonly EditionKind[] = ["lesson", "week"];

/** Something that a draft needs to be an edition, and the field it is said at. */
export interface Lack {
  field: "title" | "words" | "risk" | "markets";
  sentence: string;
}

/** Everything that stops a draft from being published at an instant: all of it, each in a sentence. */
export function lacksOf(
  { title, kind, blocks, corrects }: Pick<Draft, "title" | "kind" | "blocks" | "corrects">,
  sections: readonly Section[],
  now: number,
): Lack[] {
  const words = blocks.flatMap((one) => (one.kind === "words" ? [textOfWords(one.words)] : []));
  const lacks: (Lack | false)[] = [
    title.trim() === "" && { field: "title", sentence: "An outlook needs a title." },
    !words.some((text) => text.trim() !== "") && { field: "words", sentence: "An outlook needs some words." },
    !blocks.some((one) => one.kind === "risk" && one.text.trim() !== "") && {
      field: "risk",
      sentence: "An outlook needs its risk notice.",
    },
    marketsIn(blocks).length === 0 &&
      !corrects &&
      !OF_NONE.includes(kind) && { field: "markets", sentence: "An outlook needs the section of at least one market." },
  ];
  return [
    ...lacks.filter((one) => one !== false),
    ...faultsOf(sections, now).map((sentence): Lack => ({ field: "markets", sentence })),
  ];
}

/** Calls that cannot be followed, and sets whose weights do not add up. */
function faultsOf(sections: readonly Section[], now: number): string[] {
  const ofCalls = sections.flatMap(({ market, scenarios }) =>
    scenarios.flatMap((scenario) => {
      const fault = checkWritten(scenario, { market, now }).find(({ severity }) => severity === "fault");
      return fault ? [`${market.name}, ${scenario.title}: ${fault.sentence}`] : [];
    }),
  );
  const ofSets = [...setsOf(sections)].flatMap(([name, set]) => {
    const problem = setProblem(set);
    return problem ? [`${name}: ${problem}`] : [];
  });
  return [...new Set([...ofCalls, ...ofSets])];
}

/** Refuses a draft that is no edition yet, with the reason at its field. */
export function checkPublishable(draft: Draft, sections: readonly Section[], now: number): void {
  refuse(lacksOf(draft, sections, now), "The draft is saved; nothing was published.");
}

/** Refuses what lacks something, with all of it. */
export function refuse(lacks: readonly Lack[], kept: string): void {
  if (lacks.length === 0) return;
  const fields = Object.fromEntries([...lacks].reverse().map(({ field, sentence }) => [field, sentence]));
  throw new Failure("incomplete", lacks.map(({ sentence }) => sentence).join(" "), { kept, fields });
}

/** The scenarios of each market, however many sections it has: readers take them for one set. */
function setsOf(sections: readonly Section[]): Map<string, Written[]> {
  const sets = new Map<string, Map<string, Written>>();
  for (const { market, scenarios } of sections) {
    const set = sets.get(market.name) ?? new Map<string, Written>();
    for (const scenario of scenarios) set.set(scenario.id, scenario);
    sets.set(market.name, set);
  }
  return new Map([...sets].map(([name, set]) => [name, [...set.values()]]));
}
