import { ConditionFault } from "#core/conditions/fields";
import type { MarketFacts } from "#core/marks/kind";
import { sayTerms, type InstantText } from "#core/scenarios/sayTerms";
import { termsOfWritten } from "#core/written/read";
import type { Written } from "#core/written/written";

/** A scenario as it is written, as one paragraph; while something is missing, what that is. */
export function sayWritten(
  written: Pick<Written, "terms">,
  market: Pick<MarketFacts, "decimals">,
  instant: InstantText,
): string {
  try {
    return sayTerms(termsOfWritten(written), market, instant);
  } catch (error) {
    if (!(error instanceof ConditionFault)) throw error;
    return "It cannot be read aloud before every price stands.";
  }
}
