/** How a mark stands, as a code; the words are beside it and never compared. */
export const STATUS_WORDS = {
  none: "",
  ahead: "ahead",
  alive: "alive",
  broken: "broken",
  brokenAbove: "broken above",
  brokenBelow: "broken below",
  confirmed: "confirmed",
  dead: "dead",
  due: "due",
  extended: "extended",
  failed: "failed",
  filled: "filled",
  flipped: "flipped",
  forming: "forming",
  fresh: "fresh",
  inForce: "in force",
  insideDead: "inside dead",
  left: "left",
  met: "met",
  negated: "negated",
  overdue: "overdue",
  partlyFilled: "partly filled",
  passed: "passed",
  pending: "pending",
  retested: "retested",
  running: "running",
  spent: "spent",
  stands: "stands",
  swept: "swept",
  taken: "taken",
  takenBack: "taken back",
  touched: "touched",
  undone: "undone",
  untouched: "untouched",
  waiting: "waiting",
} as const;

export type StatusCode = keyof typeof STATUS_WORDS;

/** What a kind says of a state: the code, whether it is over, and other words where the code's own are too few. */
export interface Standing {
  code: StatusCode;
  dead: boolean;
  words?: string;
}

/** The same as a life carries it. */
export function statusOf({ code, dead, words }: Standing): { code: StatusCode; status: string; dead: boolean } {
  return { code, status: words ?? STATUS_WORDS[code], dead };
}
