import { useEffect, useEffectEvent, useRef, useState } from "react";
import { askJson } from "../../parts/asked.ts";
import type { Board, BoardRow } from "../../../server/round/board.ts";

const LOOK = 1_500;

function isWhole({ cells, standing }: BoardRow): boolean {
  return standing !== null && !cells.includes(null);
}

/** A row that lacks something, or says what no longer holds. */
export function isStale(row: BoardRow, now: number): boolean {
  return !isWhole(row) || row.validUntil <= now;
}

/** Markets whose rows of the board are in sight. */
function inSight(): ReadonlySet<string> {
  const rows = [...document.querySelectorAll<HTMLElement>("tr[data-market]")];
  const seen = rows.filter((row) => {
    const { top, bottom } = row.getBoundingClientRect();
    return bottom > 0 && top < window.innerHeight;
  });
  return new Set(seen.map((row) => row.dataset.market ?? ""));
}

/**
 * The next row to be asked for: the one that is looked at, or of those that are stale the one whose turn is longest
 * ago, so that one that fails holds up no other; of those that had none yet one in sight.
 */
export function nextRow(
  rows: readonly BoardRow[],
  now: number,
  looked: string | undefined,
  asked: ReadonlyMap<string, number>,
  seen: ReadonlySet<string> = new Set(),
): string | undefined {
  const turn = (id: string) => asked.get(id) ?? (seen.has(id) ? -2 : -1);
  const stale = rows.filter((row) => isStale(row, now)).sort((a, b) => turn(a.id) - turn(b.id));
  const own = stale.find(({ id }) => id === looked);
  return (own && turn(own.id) < 0 ? own : stale.at(0))?.id;
}

/**
 * The rows of the board, kept current: those that lack something, or on which a bar has closed by the market's clock,
 * are asked for one after the other.
 */
export function useRows(
  { rows: first, list }: Pick<Board, "rows" | "list">,
  now: number,
  looked: string | undefined,
): { rows: readonly BoardRow[]; waiting: number } {
  const [fresh, setFresh] = useState<ReadonlyMap<string, BoardRow>>(new Map());
  const asked = useRef(new Map<string, number>());
  const rows = first.map((row) => fresh.get(row.id) ?? row);
  const next = useEffectEvent(() => nextRow(rows, now, looked, asked.current, inSight()));
  useEffect(() => {
    const left = new AbortController();
    let timer: ReturnType<typeof setTimeout>;
    let turn = 0;
    const read = async () => {
      const id = next();
      let rest = id === undefined ? LOOK : 0;
      if (id !== undefined) {
        // Asked for again only when all others have had their turn, and not at once.
        if (asked.current.has(id)) rest = LOOK;
        asked.current.set(id, turn++);
        try {
          const row = await askJson<BoardRow>(`/round/${id}${list.id ? `?list=${list.id}` : ""}`, left.signal);
          setFresh((held) => new Map(held).set(row.id, row));
          if (isWhole(row)) asked.current.delete(id);
        } catch {
          // Left, or the server is away: it is asked again.
          rest = LOOK;
        }
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
