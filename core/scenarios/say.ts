import type { MarketFacts } from "#core/marks/kind";
import { priceText } from "#core/marks/wording";
import type { FollowUp, Reason } from "#core/scenarios/events";
import type { OutcomeNote } from "#core/scenarios/note";

type Decimals = Pick<MarketFacts, "decimals">;

/** R with a sign and two decimals: "+2.50 R". */
export function rText(r: number): string {
  return `${r >= 0 ? "+" : "\u2212"}${Math.abs(r).toFixed(2)} R`;
}

/** What a follow-up says, without its time. */
export function followUpSentence(event: FollowUp, market: Decimals): string {
  const result = event.r === undefined ? "" : ` ${rText(event.r)}.`;
  const doubt = event.ambiguous ? " Within this bar it may have gone better; what counts is the worst of it." : "";
  return `${happened(event, priceText(event.price, market))}${result}${doubt}`;
}

function happened({ event, step, target, reason }: FollowUp, price: string): string {
  switch (event) {
    case "step":
      return `Step ${step} came, with price at ${price}.`;
    case "triggered":
      return `Triggered by a close at ${price}.`;
    case "entered":
      return `Entered at ${price}.`;
    case "target":
      return `Target ${target} reached at ${price}.`;
    case "breakEven":
      return `The stop stands at the entry, ${price}.`;
    case "trailed":
      return `The stop follows to ${price}.`;
    case "stopped":
      return `Stopped at ${price}.`;
    case "completed":
      return "Complete.";
    case "invalid":
      return `Wrong: price went beyond ${price} before an entry.`;
    case "expired":
      return "Lapsed without an entry.";
    case "missed":
      return `Missed: at ${price} there was too little left of it to enter.`;
    case "passed":
      return `Passed: at ${price} it promised too little for its risk.`;
    case "cancelled":
      return `Given up at ${price}: ${WHY[reason ?? "while"]}.`;
  }
}

const WHY: Record<Reason, string> = {
  while: "what had to hold no longer held",
  unless: "what must not come came",
  late: "its next step did not come in time",
  geometry: "its stop would have stood on the wrong side of its entry",
  bind: "what happened left no such price as it asks for",
  leg: "the leg it follows has ended otherwise",
};

/** What a note on an outcome says: that bars changed or finer ones came, and what they would have led to. */
export function noteSentence({ note, cause, same, last }: OutcomeNote, market: Decimals): string {
  const changed = cause === "import" ? "Another file gave other bars" : "An import was taken back, and bars changed";
  const why = note === "finer" ? "Finer bars came" : changed;
  const end = last
    ? `They would have led to this in the end: ${followUpSentence(last, market)}`
    : "On them nothing would have happened.";
  return (
    `${why} for a time this outcome used. What was recorded stands. ` +
    `${same ? "They would have led to the same." : end}`
  );
}
