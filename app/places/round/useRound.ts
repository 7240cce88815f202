import { useRef, useState } from "react";
import { doneOf, isDue, stopsOf, type Stop } from "#core/round/walk";
import { asksAgain, type Verdict } from "#core/round/verdict";
import type { RoundStepDto } from "#contracts/round";
import type { Board, BoardCell, BoardRow } from "../../../server/round/board.ts";
import type { SaidVerdict } from "../../../server/round/rounds.ts";
import { failureText, postJson } from "../../parts/post.ts";
import { useRows } from "./useRows.ts";

export interface Round {
  /** Rows as the server says them, with what was said since on this page. */
  rows: readonly BoardRow[];
  waiting: number;
  stops: readonly Stop[];
  startedAt: number | undefined;
  /** Rounds begun today, this one among them. */
  today: number;
  done: ReturnType<typeof doneOf>;
  cellOf(stop: Stop): BoardCell | undefined;
  rowOf(market: string): BoardRow | undefined;
  /** Whether a stop was looked at in the round that is on. */
  isLooked(stop: Stop): boolean;
  /** Whether a stop has to be looked at: a candle closed there, or its verdict waits to be asked again. */
  isOpen(stop: Stop): boolean;
  look(stop: Stop): void;
  say(stop: Stop, verdict: Verdict, change?: { remark?: string; asksAt?: number | null }): void;
  end(summary: string): void;
  /** What has not reached the server yet, in words; empty when all has. */
  trouble: string;
  saving: boolean;
}

/** What happened on this page; what the board was loaded with counts until a round was ended here. */
interface Here {
  /** Rounds begun and ended. */
  begun: number;
  ended: number;
  /** When the one that is on was begun, and what was looked at in it. */
  at: number | undefined;
  looked: ReadonlySet<string>;
}

const AGAIN = 2_000;

const keyOf = ({ market, rung }: Stop) => `${market} ${rung}`;

/**
 * A round as it is walked on this page: what is said shows at once and is sent in order, again and again until it has
 * arrived.
 */
export function useRound(board: Board, now: number, looked: string | undefined): Round {
  const { rows: known, waiting } = useRows(board, now, looked);
  const [looks, setLooks] = useState<ReadonlyMap<string, number>>(new Map());
  const [verdicts, setVerdicts] = useState<ReadonlyMap<string, SaidVerdict>>(new Map());
  const [here, setHere] = useState<Here>({ begun: 0, ended: 0, at: undefined, looked: new Set() });
  const queue = useRef<RoundStepDto[]>([]);
  const busy = useRef(false);
  const [save, setSave] = useState({ saving: false, trouble: "" });

  const send = async (): Promise<void> => {
    if (busy.current) return;
    busy.current = true;
    setSave((before) => ({ ...before, saving: true }));
    while (queue.current.length > 0) {
      const steps = queue.current.slice(0, 200);
      const posted = await postJson("/round/say", { list: board.list.id, steps });
      if (posted.ok) {
        queue.current = queue.current.slice(steps.length);
        setSave({ saving: true, trouble: "" });
        continue;
      }
      // What the server refuses it would refuse again: it is let go and said. What did not arrive is sent again.
      setSave({ saving: true, trouble: failureText(posted.failure) });
      if (posted.status > 0 && posted.status < 500) queue.current = queue.current.slice(steps.length);
      else await new Promise((done) => setTimeout(done, AGAIN));
    }
    busy.current = false;
    setSave((before) => ({ ...before, saving: false }));
  };
  const loaded = here.ended === 0 ? board.round : null;
  const startedAt = loaded?.startedAt ?? here.at;
  const write = (step: RoundStepDto) => {
    queue.current.push(step);
    if (step.step !== "end" && !loaded)
      setHere((before) => (before.at === undefined ? { ...before, begun: before.begun + 1, at: now } : before));
    void send();
  };
  const rows = known.map((row): BoardRow => {
    // What was said in a round that was ended here is said before the next one.
    const verdict = verdicts.get(row.id) ?? (here.ended > 0 ? null : row.verdict);
    const before = here.ended > 0 && row.verdict && row.verdict.verdict !== "nothing" ? row.verdict : row.before;
    const cells = row.cells.map((cell) => {
      const at = cell ? looks.get(keyOf(cell)) : undefined;
      return cell && at !== undefined && at > (cell.lookedAt ?? -Infinity) ? { ...cell, lookedAt: at } : cell;
    });
    return { ...row, verdict, before, cells };
  });
  const rowOf = (market: string) => rows.find(({ id }) => id === market);
  const cellOf = ({ market, rung }: Stop) => rowOf(market)?.cells.find((cell) => cell?.rung === rung) ?? undefined;
  // A rung that no stored bars can make is no stop.
  const stops = stopsOf(
    rows.map(({ id }) => id),
    board.tradable,
  ).filter((stop) => {
    const cell = rowOf(stop.market)?.cells.find((one) => one?.rung === stop.rung);
    return !cell || cell.close !== undefined;
  });
  // While the clock stands still a look of the round before is as late as one of this one.
  const isLooked = (stop: Stop) =>
    loaded ? (cellOf(stop)?.lookedAt ?? -Infinity) >= loaded.startedAt : here.looked.has(keyOf(stop));
  return {
    rows,
    waiting,
    stops,
    startedAt,
    today: board.today + here.begun,
    done: doneOf(stops, isLooked),
    cellOf,
    rowOf,
    isLooked,
    isOpen(stop) {
      const cell = cellOf(stop);
      const verdict = rowOf(stop.market)?.verdict;
      const asked = verdict?.rung === stop.rung && asksAgain(verdict, now);
      return asked || (cell !== undefined && isDue(cell));
    },
    look(stop) {
      setLooks((before) => new Map(before).set(keyOf(stop), now));
      write({ step: "look", market: stop.market, rung: stop.rung, at: now });
      setHere((before) => ({ ...before, looked: new Set(before.looked).add(keyOf(stop)) }));
    },
    say(stop, verdict, { remark, asksAt } = {}) {
      const before = rowOf(stop.market)?.verdict;
      const said: SaidVerdict = {
        rung: stop.rung,
        verdict,
        remark: remark ?? before?.remark ?? "",
        saidAt: now,
        asksAt: asksAt === undefined ? null : asksAt,
      };
      setVerdicts((held) => new Map(held).set(stop.market, said));
      write({
        step: "verdict",
        market: stop.market,
        rung: stop.rung,
        verdict,
        remark: said.remark,
        ...(said.asksAt === null ? {} : { asksAt: said.asksAt }),
      });
    },
    end(summary) {
      const { of, looked: seen } = doneOf(stops, isLooked);
      write({ step: "end", summary, stops: of, looked: seen });
      setVerdicts(new Map());
      setHere((before) => ({ ...before, ended: before.ended + 1, at: undefined, looked: new Set() }));
    },
    ...save,
  };
}
