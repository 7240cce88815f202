import { sectionsOf, type EditionContent } from "./content.ts";

/** Under which edition a call of one is followed: the one it was first called in. */
export type Followed = ReadonlyMap<string, number>;

/** The calls of an edition by their ids; those that a reader may not see are missing. */
export function followedIn(number: number, content: Pick<EditionContent, "blocks">): Followed {
  const seen = sectionsOf({ blocks: content.blocks.filter(Boolean) }).flatMap(({ scenarios }) => scenarios);
  return new Map(seen.filter(Boolean).map((scenario) => [scenario.id, editionOf(scenario) ?? number]));
}

const editionOf = (scenario: object): number | undefined => (scenario as { calledIn?: number }).calledIn;

/** What `of` gives of each edition that some calls are followed under, and is of one of those calls. */
export async function ofCalls<T extends { scenarioId: string }>(
  followed: Followed,
  of: (edition: number) => Promise<T[]>,
): Promise<T[]> {
  const editions = [...new Set(followed.values())].sort((a, b) => a - b);
  const found = await Promise.all(
    editions.map(async (edition) =>
      (await of(edition)).filter(({ scenarioId }) => followed.get(scenarioId) === edition),
    ),
  );
  return found.flat();
}
