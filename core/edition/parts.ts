/** What of an edition a plan may show or withhold. */
export const PARTS = ["words", "levels", "counts", "scenarios", "orders", "pictures"] as const;
export type EditionPart = (typeof PARTS)[number];

export const PART_NAMES: Record<EditionPart, string> = {
  words: "Words and bearings",
  levels: "Levels",
  counts: "Counts",
  scenarios: "Scenarios, and where they are wrong",
  orders: "Entries, stops, targets and results",
  pictures: "Pictures and their bars",
};

/** Whose plan lets them see a thing: everybody's ("all"), or one that has every part named, joined by "+". */
export type See = "all" | "desk" | EditionPart | `${EditionPart}+${string}`;

/** Whether a plan with these parts shows what asks for `see`; what it cannot read it does not show. */
export function canSee(see: string, parts: readonly EditionPart[]): boolean {
  return see === "all" || see.split("+").every((part) => (parts as readonly string[]).includes(part));
}

/** Which parts show a number of the desk: a price of a mark, of a call, or of the market itself. */
export function seeOfNumber({ of, part }: { of: "price" | "mark" | "scenario"; part: string }): See {
  if (of === "mark") return "levels";
  if (of === "price") return "all";
  return part === "wrong" ? "scenarios" : "scenarios+orders";
}

/** Parts as a plan holds them: in one order, each once; entries and targets only with the scenarios they are of. */
export function partsInOrder(parts: readonly EditionPart[]): EditionPart[] {
  return PARTS.filter((part) => parts.includes(part) && (part !== "orders" || parts.includes("scenarios")));
}
