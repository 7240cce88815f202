import { createContext, use, useEffect, useState } from "react";
import type { EditionNow } from "../../../server/readers/now.ts";

/** How often is asked (ms). */
const EVERY = 10_000;

/**
 * What moves of an outlook, asked again and again while its page is in sight; nothing without scripts, or while the
 * desk does not answer.
 */
export function useEditionNow(number: number, isAsked: boolean): EditionNow | undefined {
  const [now, setNow] = useState<EditionNow>();
  useEffect(() => {
    if (!isAsked) return;
    let ended = false;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const ask = async () => {
      if (document.visibilityState === "visible") {
        const answer = await fetch(`/outlooks/${number}/now`).catch(() => undefined);
        const found = answer?.ok ? ((await answer.json()) as EditionNow) : undefined;
        if (!ended) setNow(found);
      }
      if (!ended) timer = setTimeout(() => void ask(), EVERY);
    };
    void ask();
    return () => {
      ended = true;
      clearTimeout(timer);
    };
  }, [number, isAsked]);
  return now;
}

/** What moves of the outlook that is read. */
export const Now = createContext<EditionNow | undefined>(undefined);
export const useNow = () => use(Now);
