import { useState } from "react";

/** A sentence without its numbers: while a mark is dragged they change at every move, its rule does not. */
const ruleOf = (sentence: string) => sentence.replace(/\d[\d.,]*/g, "");

/** Sentences in the order their rules were broken, the newest first; those that hold again are gone. */
export function newestFirst(before: readonly string[], now: readonly string[]): string[] {
  const at = (sentence: string) => before.findIndex((one) => ruleOf(one) === ruleOf(sentence));
  return [...now].sort((a, b) => at(a) - at(b));
}

/** The same while a component is drawn again and again. */
export function useNewestFirst(now: readonly string[]): readonly string[] {
  const [kept, setKept] = useState<readonly string[]>(now);
  const next = newestFirst(kept, now);
  if (next.length !== kept.length || next.some((one, i) => one !== kept[i])) setKept(next);
  return next;
}
