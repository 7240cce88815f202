import { wrap } from "comlink";
import { useEffect, useRef, useState } from "react";
import { toBuffer, type Series } from "#core/series/series";
import type { Span, SpanOptions } from "#core/waves/spans";
import type { CountsWorker } from "../../../worker/counts.worker.ts";

export interface SpanWork {
  state: "idle" | "counting" | "done" | "cancelled" | "failed";
  spans: readonly Span[];
  /** The bars they are of. */
  series: Series | undefined;
  /** Milliseconds it took. */
  took: number;
}

const IDLE: SpanWork = { state: "idle", spans: [], series: undefined, took: 0 };

/** Counting the spans of bars beside the page: one run at a time, in a worker that ends with it. */
export function useSpans(): { work: SpanWork; run(series: Series, options: SpanOptions): void; cancel(): void } {
  const [work, setWork] = useState<SpanWork>(IDLE);
  const running = useRef<Worker>(undefined);
  const stop = () => {
    running.current?.terminate();
    running.current = undefined;
  };
  useEffect(() => stop, []);
  return {
    work,
    cancel() {
      stop();
      setWork((now) => (now.state === "counting" ? { ...now, state: "cancelled" } : now));
    },
    run(series, options) {
      stop();
      const worker = new Worker(new URL("../../../worker/counts.worker.ts", import.meta.url), { type: "module" });
      running.current = worker;
      const began = performance.now();
      setWork({ ...IDLE, state: "counting" });
      const tell = (news: Partial<SpanWork>) => {
        if (running.current !== worker) return;
        stop();
        setWork({ ...IDLE, ...news, took: performance.now() - began });
      };
      worker.addEventListener("error", () => tell({ state: "failed" }));
      wrap<CountsWorker>(worker)
        .spans(toBuffer(series), options)
        .then(
          (spans) => tell({ state: "done", spans, series }),
          () => tell({ state: "failed" }),
        );
    },
  };
}
