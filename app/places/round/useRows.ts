import { useEffect, useState } from "react";
import type { Board, BoardRow } from "../../../server/desk/round.ts";

const AGAIN = 20_000;

/** The rows of the board: those that lack something are asked for one after the other, and all of them again from time to time. */
export function useRows({ rows: first }: Board): { rows: readonly BoardRow[]; waiting: number } {
  const [fresh, setFresh] = useState<ReadonlyMap<string, BoardRow>>(new Map());
  useEffect(() => {
    const left = new AbortController();
    const read = async (ids: readonly string[]) => {
      for (const id of ids) {
        if (left.signal.aborted) return;
        try {
          const response = await fetch(`/round/${id}`, { signal: left.signal });
          if (!response.ok) continue;
          const row = (await response.json()) as BoardRow;
          setFresh((now) => new Map(now).set(row.id, row));
        } catch {
          // Left, or the server is away: the next time round asks again.
        }
      }
    };
    let busy = read(first.filter(({ cells }) => cells.includes(null)).map(({ id }) => id));
    const timer = setInterval(() => {
      busy = busy.then(() => read(first.map(({ id }) => id)));
    }, AGAIN);
    return () => {
      left.abort();
      clearInterval(timer);
    };
  }, [first]);
  const rows = first.map((row) => fresh.get(row.id) ?? row);
  return { rows, waiting: rows.filter(({ cells }) => cells.includes(null)).length };
}
