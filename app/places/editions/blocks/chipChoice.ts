import type { Chip } from "#core/edition/words";

/** A number that can be put in, by the name it is found by. */
export type ChipChoice = Chip & { name: string };

/** What of a number stands in an editor's document, and goes with it wherever it is dragged or pasted. */
export const CHIP_ATTRIBUTES = ["market", "of", "id", "part", "text"] as const satisfies (keyof Chip)[];
