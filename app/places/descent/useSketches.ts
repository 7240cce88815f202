import { useEffect, useState } from "react";
import type { Hours } from "#core/series/hours";
import type { RungSketch } from "../../../server/bars/sketches.ts";

/** Sketches of the rungs of a set, asked for once the chart itself has its bars. */
export function useSketches(market: string, set: string, hours: Hours, ready: boolean): readonly RungSketch[] {
  const [held, setHeld] = useState<{ subject: string; sketches: RungSketch[] }>();
  const subject = `${market} ${set} ${hours}`;
  useEffect(() => {
    if (!ready) return;
    const abort = new AbortController();
    fetch(`/descent/${market}/sketches?hours=${hours}`, { signal: abort.signal })
      .then((response) => (response.ok ? (response.json() as Promise<RungSketch[]>) : []))
      .then((sketches) => setHeld({ subject, sketches }))
      // A column without sketches is still a column.
      .catch(() => undefined);
    return () => abort.abort();
  }, [market, hours, subject, ready]);
  return held?.subject === subject ? held.sketches : [];
}
