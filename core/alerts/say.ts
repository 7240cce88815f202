import { placeOf, rungOf, type AlertEvent, type AlertTerms } from "#core/alerts/alert";
import type { MarketFacts } from "#core/marks/kind";
import { followUpSentence } from "#core/scenarios/say";
import { bandText, priceText, rungText } from "#core/marks/wording";

/** What an alert waits for, as one sentence. */
export function sayAlert(terms: AlertTerms, market: Pick<MarketFacts, "decimals">): string {
  const at = placeOf(terms);
  const place = at && `${at.name} ${at.mark ? "" : bandText(at, market)}`.trim();
  switch (terms.on) {
    case "reach":
      return `Price reaches ${place}.`;
    case "beyond":
      return `A ${rungText(terms.rung)} candle closes beyond ${place}.`;
    case "scenario":
      return `Each step of the scenario "${terms.title}".`;
    case "shift":
      return `Structure shifts ${terms.direction === "either" ? "" : `${terms.direction} `}on ${rungText(terms.rung)}.`;
    case "close":
      return `A ${rungText(terms.rung)} candle closes.`;
    case "candle":
      return `${CANDLES[terms.candle]} candle on ${rungText(terms.rung)} at ${place}.`;
  }
}

const CANDLES = { indecision: "An indecision", engulfing: "An engulfing", either: "An indecision or engulfing" };

/** What an alert has seen, as one sentence. */
export function sayFiring(
  terms: AlertTerms,
  { what, price, band, direction, candle, followUp }: AlertEvent,
  market: Pick<MarketFacts, "decimals">,
): string {
  const rung = rungText(rungOf(terms) ?? "");
  const place = band ? `${band.name} ${bandText(band, market)}` : "";
  switch (what) {
    case "reach":
      return `Reached ${place}.`;
    case "jump":
      return `Jumped across ${place}.`;
    case "beyond":
      return `${rung} closed ${direction === "up" ? "above" : "below"} ${place}, at ${priceText(price, market)}.`;
    case "shift":
      return `Structure shifted ${direction} on ${rung}: closed beyond ${priceText(price, market)}.`;
    case "followUp":
      return followUp
        ? `${terms.on === "scenario" ? `${terms.title}: ` : ""}${followUpSentence(followUp, market)}`
        : "";
    case "close":
      return `${rung} closed at ${priceText(price, market)}.`;
    case "candle":
      return `${capital(candle ?? "")} candle on ${rung} at ${place}.`;
  }
}

function capital(text: string): string {
  return text.slice(0, 1).toUpperCase() + text.slice(1);
}
