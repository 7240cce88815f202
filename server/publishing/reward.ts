import { figuresOf } from "#core/written/figures";
import { termsOfWritten } from "#core/written/read";
import type { Written } from "#core/written/written";
import type { Section } from "./section.ts";

/** Blended reward to risk of a call; `undefined` while its prices come with its steps. */
export function rewardOf(scenario: Written, { market, bars }: Pick<Section, "market" | "bars">): number | undefined {
  return figuresOf(termsOfWritten(scenario), market, { close: bars.at(-1)?.close ?? NaN }).blended;
}
