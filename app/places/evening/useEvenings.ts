import { keepPreviousData, useQueries } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { listenLive } from "../../parts/live.ts";
import type { Evening } from "../../../server/round/evening.ts";

const weight = ({ died, formed, stands }: Evening) => (died.length + formed.length > 0 ? 0 : stands.length > 0 ? 1 : 2);

/** What is read stands until the market's clock has gone on by so much (ms), */
const FRESH = 15 * 60_000;
/** and never less than so long by the watch on the wall: a simulated clock may run by the hour. */
const LEAST = 20_000;

/** Whether what was read at some moment of both clocks is to be read anew. */
export function isOld(read: { now: number; at: number }, now: number, at: number): boolean {
  return Math.abs(now - read.now) >= FRESH && at - read.at >= LEAST;
}

/**
 * The evenings of markets, one after the other as they are worked out; those on which nothing happened come last. They
 * follow the clock: while it goes on they are read anew, and what was read stands until then.
 */
export function useEvenings(
  markets: readonly { id: string }[],
  now: number,
): { evenings: readonly Evening[]; done: number } {
  // A visit asks anew: what was known at the last one has been traded on since.
  const [visit] = useState(() => Date.now());
  const [done, setDone] = useState(0);
  const [read, setRead] = useState({ now, at: visit });
  useEffect(
    () =>
      listenLive(({ now: later }) =>
        setRead((before) => (isOld(before, later, Date.now()) ? { now: later, at: Date.now() } : before)),
      ),
    [],
  );
  const asked = useQueries({
    queries: markets.map(({ id }, i) => ({
      queryKey: [`/round/${id}/evening`, visit, read.now],
      enabled: i <= done,
      placeholderData: keepPreviousData,
    })),
    combine: (queries) => ({
      answered: queries.filter(({ isPending }) => !isPending).length,
      // One that cannot be had is missing from the list until the page is opened again.
      known: queries.flatMap(({ data }) => (data ? [data as Evening] : [])),
    }),
  });
  if (asked.answered > done) setDone(asked.answered);
  return { evenings: asked.known.sort((a, b) => weight(a) - weight(b)), done };
}
