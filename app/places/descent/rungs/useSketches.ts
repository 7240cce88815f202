import { useEffect, useState } from "react";
import type { Hours } from "#core/series/hours";
import type { RungSketch } from "../../../../server/bars/sketches.ts";

/** Sketches of the rungs of a set, asked for once the chart itself has its bars. */
export function useSketches(
  market: string,
  set: string,
  hours: Hours,
  asOf: number | undefined,
  ready: boolean,
): readonly RungSketch[] {
  const [held, setHeld] = useState<{ subject: string; sketches: RungSketch[] }>();
  const subject = `${market} ${set} ${hours} ${asOf ?? ""}`;
  useEffect(() => {
    if (!ready) return;
    const abort = new AbortController();
    fetch(`/descent/${market}/sketches?hours=${hours}${asOf === undefined ? "" : `&asOf=${asOf}`}`, {
      signal: abort.signal,
    })
      .then((response) => (response.ok ? (response.json() as Promise<RungSketch[]>) : []))
      .then((sketches) => setHeld({ subject, sketches }))
      // A column without sketches is still a column.
      .catch(() => undefined);
    return () => abort.abort();
  }, [market, hours, asOf, subject, ready]);
  // While the past is walked the last sketches stand until the next ones are there.
  return held?.subject.startsWith(`${market} ${set} `) ? held.sketches : [];
}
