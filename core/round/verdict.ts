/** What a look at a market in a round can come to. */
export const VERDICTS = ["nothing", "watch", "plan"] as const;
export type Verdict = (typeof VERDICTS)[number];

/** Whether a verdict was said on a bar that has closed since: then it is asked again. */
export function asksAgain({ asksAt }: { asksAt: number | null }, now: number): boolean {
  return asksAt !== null && asksAt <= now;
}
