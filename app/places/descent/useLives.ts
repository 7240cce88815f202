import { wrap, type Remote } from "comlink";
import { useEffect, useRef, useState } from "react";
import type { Mark, MarketFacts } from "#core/marks/kind";
import type { Hours } from "#core/series/hours";
import { toBuffer } from "#core/series/series";
import type { CalendarSpec } from "#core/time/calendar";
import type { LivesAnswer, LivesWorker } from "../../worker/lives.worker.ts";
import type { LoadedBars } from "./useBars.ts";

export type Lives = Map<string, LivesAnswer[number]>;

/** The lives of all marks, worked out beside the page. While new ones are being computed the last ones stand. */
export function useLives(marks: readonly Mark[], market: MarketFacts, calendar: CalendarSpec, shown: { rung: string; hours: Hours; asOf: number | undefined }, bars: LoadedBars | undefined): Lives {
  const [lives, setLives] = useState<Lives>(new Map());
  const worker = useRef<Remote<LivesWorker>>(null);
  const { rung, hours, asOf } = shown;
  const busy = useRef(false);
  const wanted = useRef<() => void>(undefined);

  useEffect(() => {
    const made = new Worker(new URL("../../worker/lives.worker.ts", import.meta.url), { type: "module" });
    worker.current = wrap<LivesWorker>(made);
    return () => made.terminate();
  }, []);

  useEffect(() => {
    if (!bars) return;
    const compute = async () => {
      if (!worker.current) return;
      if (busy.current) return void (wanted.current = () => void compute());
      busy.current = true;
      const onScreen = hours === "all" ? { shown: { rung, bars: toBuffer(bars.series), start: bars.start } } : {};
      const answer = await worker.current.follow({ marks: [...marks], market, calendar, revision: bars.revision, asOf, ...onScreen });
      busy.current = false;
      setLives(new Map(answer.map((one) => [one.id, one])));
      const next = wanted.current;
      wanted.current = undefined;
      next?.();
    };
    void compute();
  }, [marks, market, calendar, rung, hours, asOf, bars]);
  return lives;
}
