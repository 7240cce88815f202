/** What a look at a market in a round can come to. */
export const VERDICTS = ["nothing", "watch", "plan"] as const;
export type Verdict = (typeof VERDICTS)[number];
