import { useEffect, useState } from "react";
import type { Evening } from "../../../server/round/evening.ts";

/** The evenings of markets, one after the other as they are worked out; those on which nothing happened come last. */
export function useEvenings(markets: readonly { id: string }[]): { evenings: readonly Evening[]; done: number } {
  const [known, setKnown] = useState<ReadonlyMap<string, Evening>>(new Map());
  const [done, setDone] = useState(0);
  const ids = markets.map(({ id }) => id).join(" ");
  useEffect(() => {
    const left = new AbortController();
    const read = async () => {
      for (const id of ids.split(" ").filter(Boolean)) {
        if (left.signal.aborted) return;
        try {
          const response = await fetch(`/round/${id}/evening`, { signal: left.signal });
          if (response.ok) {
            const evening = (await response.json()) as Evening;
            setKnown((before) => new Map(before).set(id, evening));
          }
        } catch {
          // Left, or the server is away: the market is missing from the list until the page is opened again.
        }
        setDone((before) => before + 1);
      }
    };
    void read();
    return () => left.abort();
  }, [ids]);
  const weight = ({ died, formed, stands }: Evening) =>
    died.length + formed.length > 0 ? 0 : stands.length > 0 ? 1 : 2;
  const evenings = [...known.values()].sort((a, b) => weight(a) - weight(b));
  return { evenings, done };
}
