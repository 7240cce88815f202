import { placeOf, type AlertTerms, type Place } from "#core/alerts/alert";
import type { MarketFacts } from "#core/marks/kind";
import { priceText, rungText } from "#core/marks/wording";

export function bandText(
  { bottom, top }: Pick<Place, "bottom" | "top">,
  market: Pick<MarketFacts, "decimals">,
): string {
  return bottom === top ? priceText(bottom, market) : `${priceText(bottom, market)} to ${priceText(top, market)}`;
}

/** What an alert waits for, as one sentence. */
export function sayAlert(terms: AlertTerms, market: Pick<MarketFacts, "decimals">): string {
  const at = placeOf(terms);
  const place = at && `${at.name} ${at.mark ? "" : bandText(at, market)}`.trim();
  switch (terms.on) {
    case "reach":
      return `Price reaches ${place}.`;
    case "beyond":
      return `A ${rungText(terms.rung)} candle closes beyond ${place}.`;
    case "shift":
      return `Structure shifts ${terms.direction === "either" ? "" : `${terms.direction} `}on ${rungText(terms.rung)}.`;
    case "close":
      return `A ${rungText(terms.rung)} candle closes.`;
    case "candle":
      return `${{ indecision: "An indecision", engulfing: "An engulfing", either: "An indecision or engulfing" }[terms.candle]} candle on ${rungText(terms.rung)} at ${place}.`;
  }
}
