import { useEffect, useState } from "react";
import type { Relation } from "../../../../server/desk/relation.ts";
import type { FailureBody } from "../../../parts/post.ts";

export type Related = { relation: Relation } | { sentence: string } | undefined;

/**
 * What two markets cost at an instant and now; `undefined` while it is being asked, a sentence when it cannot be had.
 */
export function useRelation(here: string, there: string | undefined, at: number, asOf: number | undefined): Related {
  const [held, setHeld] = useState<{ question: string; answer: Related }>();
  const question = there
    ? `/descent/${here}/relation?to=${encodeURIComponent(there)}&at=${Math.max(0, Math.round(at))}` +
      (asOf === undefined ? "" : `&asOf=${asOf}`)
    : "";
  useEffect(() => {
    if (!question) return;
    const abort = new AbortController();
    ask(question, abort.signal)
      .then((answer) => setHeld({ question, answer }))
      // Another question has taken its place.
      .catch(() => undefined);
    return () => abort.abort();
  }, [question]);
  return held?.question === question ? held.answer : undefined;
}

async function ask(question: string, signal: AbortSignal): Promise<Related> {
  const response = await fetch(question, { signal });
  if (response.ok) return { relation: (await response.json()) as Relation };
  const body = (await response.json().catch(() => ({}))) as { failure?: FailureBody };
  return { sentence: body.failure?.sentence ?? "The two prices could not be had." };
}
