import type { MarketFacts } from "#core/marks/kind";
import { priceText, rungText } from "#core/marks/wording";
import type { FollowUp } from "#core/scenarios/follow";
import type { OutcomeNote } from "#core/scenarios/note";
import type { Scenario } from "#core/scenarios/scenario";

type Decimals = Pick<MarketFacts, "decimals">;

/** A plan as sentences: "While above 391.20, if a 4 h candle closes above 404.10, buy the next open. ..." */
export function planSentence(plan: Scenario, market: Decimals): string {
  const price = (value: number) => priceText(value, market);
  const long = plan.direction === "long";
  const verb = long ? "buy" : "sell";
  const how = {
    market: "the next open",
    limit: `at ${price(plan.entry.price)} by limit`,
    stop: `at ${price(plan.entry.price)} by stop`,
  };
  const side = plan.trigger.event === "closeAbove" ? "above" : "below";
  const targets = plan.targets.map((target) => price(target.price)).join(" and ");
  return [
    `While ${long ? "above" : "below"} ${price(plan.invalidation)}, if a ${rungText(plan.trigger.timeframe).toLowerCase()} candle closes ${side} ${price(plan.trigger.price)}, ${verb} ${how[plan.entry.order]}.`,
    `Stop ${price(plan.stop)}.`,
    `${plan.targets.length === 1 ? "Target" : "Targets"} ${targets}.`,
    `Wrong ${long ? "below" : "above"} ${price(plan.invalidation)}.`,
  ].join(" ");
}

/** R with a sign and two decimals: "+2.50 R". */
export function rText(r: number): string {
  return `${r >= 0 ? "+" : "\u2212"}${Math.abs(r).toFixed(2)} R`;
}

/** What a follow-up says, without its time. */
export function followUpSentence(event: FollowUp, market: Decimals): string {
  const price = priceText(event.price, market);
  const result = event.r === undefined ? "" : ` ${rText(event.r)}.`;
  switch (event.event) {
    case "triggered":
      return `Triggered by a close at ${price}.`;
    case "entered":
      return `Entered at ${price}.`;
    case "target":
      return `Target ${event.target} reached at ${price}.${result}`;
    case "breakEven":
      return `The stop stands at the entry, ${price}.`;
    case "stopped":
      return `Stopped at ${price}.${result}${event.ambiguous ? " One bar held stop and target: the stop counts first." : ""}`;
    case "invalid":
      return `Wrong: price went beyond ${price} before an entry.`;
    case "expired":
      return "Lapsed without an entry.";
    case "completed":
      return `Complete.${result}`;
  }
}

/** What a note on an outcome says: that bars were restated, and what they would have led to. */
export function noteSentence({ cause, same, last }: OutcomeNote, market: Decimals): string {
  const why = cause === "import" ? "Another file gave other bars" : "An import was taken back, and bars changed";
  const so = same
    ? "They would have led to the same."
    : last
      ? `They would have led to this in the end: ${followUpSentence(last, market)}`
      : "On them nothing would have happened.";
  return `${why} for a time this outcome used. What was recorded stands. ${so}`;
}
