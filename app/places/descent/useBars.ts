import { useEffect, useState } from "react";
import { concat, firstAtOrAfter, fromBuffer, slice, type Series } from "#core/series/series";
import { listenLive } from "../../parts/live.ts";

export interface LoadedBars {
  /** "market rung" these bars are of. */
  subject: string;
  series: Series;
  revision: number;
}

/** Bars of a rung: the latest at once, older ones after that, new ones as they come. */
export function useBars(market: string, rung: string, revision: number): LoadedBars | undefined {
  const [bars, setBars] = useState<LoadedBars>();
  useEffect(() => {
    const subject = `${market} ${rung}`;
    let left = false;
    const load = async () => {
      let part = await fetchBars(market, rung, revision, Infinity);
      if (left) return;
      setBars({ subject, series: part.series, revision });
      while (part.earlier > 0 && part.series.length > 0) {
        part = await fetchBars(market, rung, revision, part.series.time[0]);
        if (left) return;
        const { series } = part;
        setBars((now) => (now?.subject === subject ? { ...now, series: concat([series, now.series]) } : now));
      }
    };
    void load();
    const stop = listenLive(
      ({ bars: changed, revision: newer }) => {
        if (!changed || newer === undefined) return;
        setBars((now) => (now?.subject === subject ? { ...now, series: replaceTail(now.series, decode(changed)), revision: newer } : now));
      },
      market,
      rung,
    );
    return () => {
      left = true;
      stop();
    };
    // The revision of the page is only where loading starts: later ones arrive with the bars themselves.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [market, rung]);
  return bars?.subject === `${market} ${rung}` ? bars : undefined;
}

async function fetchBars(market: string, rung: string, revision: number, before: number) {
  const range = Number.isFinite(before) ? `&before=${before}` : "";
  const response = await fetch(`/bars/${market}/${rung}?revision=${revision}&count=8192${range}`);
  if (!response.ok) throw new Error(`The bars of ${market} could not be had.`);
  return { series: fromBuffer(new Float64Array(await response.arrayBuffer())), earlier: Number(response.headers.get("X-Earlier")) };
}

function decode(base64: string): Series {
  const bytes = Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0));
  return fromBuffer(new Float64Array(bytes.buffer));
}

function replaceTail(series: Series, changed: Series): Series {
  if (changed.length === 0) return series;
  return concat([slice(series, 0, firstAtOrAfter(series, changed.time[0])), changed]);
}
