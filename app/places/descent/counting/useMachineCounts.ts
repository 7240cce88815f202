import { useEffect, useRef, useState } from "react";
import { firstAtOrAfter, lastAtOrBefore, slice, type Series } from "#core/series/series";
import { readingOf } from "#core/marks/count";
import { nodeAt } from "#core/marks/countTree";
import { PATTERNS } from "#core/waves/patterns";
import { COUNTING, type CountingOptions, type CountProposal } from "#core/waves/proposals";
import { countInWorker } from "./countInWorker.ts";
import type { Counted } from "./useCounts.ts";

export interface MachineWork {
  state: "idle" | "counting" | "done" | "cancelled" | "failed";
  done: number;
  proposals: readonly CountProposal[];
  /** Milliseconds it took. */
  took: number;
}

const IDLE: MachineWork = { state: "idle", done: 0, proposals: [], took: 0 };

/** Counting beside the page: one run at a time, a new one cancels the one before. */
export function useMachineCounts(): {
  work: MachineWork;
  run(series: Series, options: CountingOptions): void;
  cancel(): void;
  clear(): void;
} {
  const [work, setWork] = useState<MachineWork>(IDLE);
  const running = useRef<AbortController>(undefined);
  useEffect(() => () => running.current?.abort(), []);
  const cancel = () => {
    running.current?.abort();
    setWork((now) => (now.state === "counting" ? { ...now, state: "cancelled" } : now));
  };
  return {
    work,
    cancel,
    clear: () => setWork(IDLE),
    run(series, options) {
      running.current?.abort();
      const own = new AbortController();
      running.current = own;
      const began = performance.now();
      setWork({ ...IDLE, state: "counting" });
      const tell = (state: MachineWork["state"]) =>
        !own.signal.aborted && setWork((now) => ({ ...now, state, took: performance.now() - began }));
      countInWorker(series, options, own.signal, ({ done, proposals }) =>
        setWork((now) => ({ ...now, done, ...(proposals ? { proposals } : {}) })),
      ).then(
        () => tell("done"),
        () => tell("failed"),
      );
    },
  };
}

/** The bars a wave runs over, and what may be found there; `undefined` while the bars shown do not hold them. */
export function insideOf(
  mark: Counted,
  at: readonly number[],
  series: Series,
): { series: Series; options: Partial<CountingOptions> } | undefined {
  const parent = nodeAt(mark, at.slice(0, -1));
  const wave = at[at.length - 1];
  const from = parent && mark.anchors[parent.pivots[wave]];
  if (!parent || !from || series.length === 0 || from.time < series.time[0]) return undefined;
  const end = parent.pivots[wave + 1];
  const to = end === undefined ? undefined : mark.anchors[end];
  const first = nearest(series, from);
  const last = to ? nearest(series, to) + 1 : series.length;
  return {
    series: slice(series, first, last),
    options: {
      patterns: PATTERNS[parent.pattern].children[wave],
      ended: to !== undefined,
      ends: { from: from.price, to: to?.price },
      fromFirst: true,
      scale: readingOf(mark).options.scale,
    },
  };
}

/** The bar that made a pivot: on a finer rung the first one from its time on with that very extreme. */
function nearest(series: Series, { time, price }: { time: number; price: number }): number {
  const from = Math.max(0, lastAtOrBefore(series, time));
  const until = firstAtOrAfter(series, time + 32 * 86_400_000);
  for (let i = from; i < until; i++) if (series.high[i] === price || series.low[i] === price) return i;
  return from;
}

export const usualOptions = (part: Partial<CountingOptions>): CountingOptions => ({ ...COUNTING, ...part });
