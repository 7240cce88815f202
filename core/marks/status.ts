/** How a mark stands, as a code; the words are beside it and never compared. */
export const STATUS_WORDS = {
  none: "",
  ahead: "ahead",
  alive: "alive",
  broken: "broken",
  brokenAbove: "broken above",
  brokenBelow: "broken below",
  dead: "dead",
  extended: "extended",
  filled: "filled",
  flipped: "flipped",
  fresh: "fresh",
  insideDead: "inside dead",
  partlyFilled: "partly filled",
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
