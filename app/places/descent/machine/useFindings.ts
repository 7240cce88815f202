import { useEffect, useRef, useState } from "react";
import type { FindingParams } from "#core/finding/params";
import type { MarketReadings } from "../../../../server/desk/readings.ts";

export type Findings = MarketReadings & { params: FindingParams };

/** Between two questions, so that a market played fast is not asked about at every bar. */
const REST = 1_500;
/** In the past every step is another moment: they are asked about once the walk rests. */
const PAUSE = 500;

/**
 * What the machine reads and offers on the rungs of a market: asked for when the market or the moment changes, when a
 * bar of the chart closes (`last` is the time of its newest one), and when `asked` counts up. While an answer is on its
 * way the one before stands.
 */
export function useFindings(
  market: string,
  asOf: number | undefined,
  last: number | undefined,
  asked: number,
): Findings | undefined {
  const [held, setHeld] = useState<{ subject: string; findings: Findings }>();
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const answered = useRef(0);
  const subject = `${market} ${asOf ?? ""}`;
  // Another market, moment or wish is asked for at once; what was waited for before is left.
  useEffect(
    () => () => {
      clearTimeout(timer.current);
      timer.current = undefined;
      answered.current = 0;
    },
    [subject, asked],
  );
  useEffect(() => {
    // One question at a time: a bar that closes while it waits is in its answer.
    if (last === undefined || timer.current) return;
    timer.current = setTimeout(
      () => {
        timer.current = undefined;
        answered.current = Date.now();
        void fetchFindings(market, asOf).then((findings) => findings && setHeld({ subject, findings }));
      },
      Math.max(asOf === undefined ? 0 : PAUSE, answered.current + REST - Date.now()),
    );
  }, [market, asOf, subject, last, asked]);
  return held?.subject === subject ? held.findings : undefined;
}

/** `undefined` when the server is away: the next bar asks again. */
async function fetchFindings(market: string, asOf: number | undefined): Promise<Findings | undefined> {
  try {
    const response = await fetch(`/descent/${market}/found${asOf === undefined ? "" : `?asOf=${asOf}`}`);
    return response.ok ? ((await response.json()) as Findings) : undefined;
  } catch {
    return undefined;
  }
}
