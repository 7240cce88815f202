import type { EditionKind } from "#core/edition/blocks";
import { textOfWords } from "#core/edition/words";
import { checkWritten } from "#core/written/check";
import { setProblem } from "#core/written/sets";
import type { Written } from "#core/written/written";
import type { Draft } from "../database/models.ts";
import { Failure } from "../failure.ts";
import type { Frozen } from "./freeze.ts";

/** Kinds of edition that may speak of no market of their own. */
const OF_NONE: readonly EditionKind[] = ["lesson", "week"];

/** Refuses a draft that is no edition yet, with the reason at its field. */
export function checkPublishable(
  { title, kind, blocks, corrects }: Draft,
  sections: readonly Frozen[],
  now: number,
): void {
  const fields: Record<string, string> = {};
  if (title.trim() === "") fields.title = "An outlook needs a title.";
  const words = blocks.flatMap((one) => (one.kind === "words" ? [textOfWords(one.words)] : []));
  if (!words.some((text) => text.trim() !== "")) fields.words = "An outlook needs some words.";
  if (!blocks.some((one) => one.kind === "risk" && one.text.trim() !== ""))
    fields.risk = "An outlook needs its risk notice.";
  if (sections.length === 0 && !corrects && !OF_NONE.includes(kind))
    fields.markets = "An outlook needs the section of at least one market.";
  for (const { of } of sections)
    for (const scenario of of.scenarios) {
      const fault = checkWritten(scenario, { market: of.market, now }).find(({ severity }) => severity === "fault");
      if (fault) fields.markets = `${of.market.name}, ${scenario.title}: ${fault.sentence}`;
    }
  for (const [name, set] of setsOf(sections)) {
    const problem = setProblem(set);
    if (problem) fields.markets ??= `${name}: ${problem}`;
  }
  if (Object.keys(fields).length > 0)
    throw new Failure("incomplete", Object.values(fields)[0], {
      kept: "The draft is saved; nothing was published.",
      fields,
    });
}

/** The scenarios of each market, however many sections it has: readers take them for one set. */
function setsOf(sections: readonly Frozen[]): Map<string, Written[]> {
  const sets = new Map<string, Map<string, Written>>();
  for (const { of } of sections) {
    const set = sets.get(of.market.name) ?? new Map<string, Written>();
    for (const scenario of of.scenarios) set.set(scenario.id, scenario);
    sets.set(of.market.name, set);
  }
  return new Map([...sets].map(([name, set]) => [name, [...set.values()]]));
}
