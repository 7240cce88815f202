import { useEffect, useEffectEvent, useState } from "react";
import type { Board, BoardRow } from "../../../server/round/board.ts";

const LOOK = 1_500;

/** A row that lacks something, or says what no longer holds. */
export function isStale({ cells, standing, validUntil }: BoardRow, now: number): boolean {
  return standing === null || cells.includes(null) || validUntil <= now;
}

/**
 * The rows of the board, kept current: those that lack something, or on which a bar has closed by the market's clock,
 * are asked for one after the other, the one that is looked at first.
 */
export function useRows({ rows: first, list }: Pick<Board, "rows" | "list">, now: number, looked: string | undefined): { rows: readonly BoardRow[]; waiting: number } {
  const [fresh, setFresh] = useState<ReadonlyMap<string, BoardRow>>(new Map());
  const rows = first.map((row) => fresh.get(row.id) ?? row);
  const next = useEffectEvent(() => {
    const stale = rows.filter((row) => isStale(row, now));
    return (stale.find(({ id }) => id === looked) ?? stale.at(0))?.id;
  });
  useEffect(() => {
    const left = new AbortController();
    let timer: ReturnType<typeof setTimeout>;
    const read = async () => {
      const id = next();
      let rest = id === undefined ? LOOK : 0;
      if (id !== undefined)
        try {
          const response = await fetch(`/round/${id}${list.id ? `?list=${list.id}` : ""}`, { signal: left.signal });
          if (response.ok) {
            const row = (await response.json()) as BoardRow;
            setFresh((held) => new Map(held).set(row.id, row));
          } else rest = LOOK;
        } catch {
          // Left, or the server is away: it is asked again.
          rest = LOOK;
        }
      if (!left.signal.aborted) timer = setTimeout(() => void read(), rest);
    };
    void read();
    return () => {
      left.abort();
      clearTimeout(timer);
    };
  }, [list.id]);
  return { rows, waiting: rows.filter(({ cells }) => cells.includes(null)).length };
}
