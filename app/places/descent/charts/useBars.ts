import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { Hours } from "#core/series/hours";
import { fromBuffer, lastAtOrBefore, slice, type Series } from "#core/series/series";
import { loadEarlier, loadNewest, takeAhead, withChanged, type LoadedSeries } from "../../../parts/barPages.ts";
import { listenChart } from "../../../parts/live.ts";

export interface LoadedBars extends LoadedSeries {
  /** "market rung hours" these bars are of. */
  subject: string;
  /** The instant they were known at; none for the present. */
  asOf: number | undefined;
}

interface WantedBars {
  bars: LoadedBars | undefined;
  wantEarlier(): void;
  /** Loads bars back to an instant, as far as there are any. */
  wantSince(time: number): Promise<void>;
}

/** Bars of a rung: the latest at once, earlier ones when they are wanted, new ones as they come. */
export function useBars(market: string, rung: string, hours: Hours, asOf?: number): WantedBars {
  const [bars, setBars] = useState<LoadedBars>();
  const subject = `${market} ${rung} ${hours}`;
  const latest = useRef<LoadedBars>(undefined);
  const loading = useRef(false);

  useEffect(() => {
    latest.current = bars;
  }, [bars]);

  useEffect(() => {
    let left = false;
    const load = async () => {
      const loaded = await loadNewest({ market, rung, hours, asOf });
      if (!left) setBars({ subject, asOf, ...loaded });
    };
    // What was loaded ahead is shown at once; it may have been added to since.
    const ahead = takeAhead({ market, rung, hours, asOf });
    void ahead?.then(
      (loaded) => !left && setBars((now) => (now?.subject === subject ? now : { subject, asOf, ...loaded })),
      () => undefined,
    );
    void load();
    // In the past nothing new arrives.
    if (asOf !== undefined) return () => void (left = true);
    const stop = listenChart({ market, rung, hours }, ({ bars: changed, revision, history }) => {
      // Bars that were closed say something else now: nothing that is loaded can be trusted.
      if (latest.current?.subject === subject && latest.current.history !== history) return void load();
      setBars((now) =>
        now?.subject === subject ? { ...now, series: withChanged(now.series, decode(changed)), revision } : now,
      );
    });
    return () => {
      left = true;
      stop();
    };
  }, [market, rung, hours, asOf, subject]);

  const wantEarlier = useCallback(() => {
    const now = latest.current;
    if (loading.current || !now || now.subject !== subject || now.start === 0) return;
    loading.current = true;
    void loadEarlier({ market, rung, hours, asOf }, now).then((loaded) => {
      loading.current = false;
      if (!loaded) return;
      // Bars may have come at the end meanwhile: only the beginning is taken over.
      setBars((held) =>
        held && held.subject === subject && held.start === now.start
          ? { ...held, start: loaded.start, series: withChanged(loaded.series, held.series) }
          : held,
      );
    });
  }, [market, rung, hours, asOf, subject]);

  const wantSince = useCallback(
    async (time: number) => {
      for (
        let loaded = latest.current;
        loaded && loaded.subject === subject && loaded.start > 0 && loaded.series.time[0] > time;
      ) {
        const more = await loadEarlier({ market, rung, hours, asOf }, loaded);
        if (!more) return;
        loaded = { subject, asOf, ...more };
        latest.current = loaded;
        const { start, series } = loaded;
        setBars((held) =>
          held?.subject === subject && held.start > start
            ? { ...held, start, series: withChanged(series, held.series) }
            : held,
        );
      }
    },
    [market, rung, hours, asOf, subject],
  );

  const held = useMemo(() => (bars?.subject === subject ? beforeOf(bars, asOf) : undefined), [bars, subject, asOf]);
  return { bars: held, wantEarlier, wantSince };
}

/**
 * While bars of an earlier instant are on their way, those at hand that were over by then: what lies ahead is not shown
 * for a moment.
 */
function beforeOf(bars: LoadedBars, asOf: number | undefined): LoadedBars {
  if (asOf === undefined || (bars.asOf !== undefined && bars.asOf <= asOf)) return bars;
  return { ...bars, asOf, series: slice(bars.series, 0, Math.max(0, lastAtOrBefore(bars.series, asOf))) };
}

function decode(base64: string): Series {
  const bytes = Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0));
  return fromBuffer(new Float64Array(bytes.buffer));
}
