import { useEffect, useState } from "react";
import type { BarAddress } from "./barPages.ts";
import type { LiveMessage } from "../../server/feed/live.ts";

const listeners = new Set<(message: LiveMessage) => void>();
let source: EventSource | undefined;
let open = "";

/** Tells every listener of the page what the one open stream says. */
function connect({ market, rung, hours }: BarAddress): void {
  const address = `/live?market=${encodeURIComponent(market)}&rung=${rung}&hours=${hours}`;
  if (address === open && source?.readyState !== EventSource.CLOSED) return;
  source?.close();
  open = address;
  source = new EventSource(address);
  source.onmessage = ({ data }) => {
    const message = JSON.parse(data as string) as LiveMessage;
    listeners.forEach((listener) => listener(message));
  };
}

/** Listens to the live stream; the page holds one, on the chart that is open (or on none). */
export function listenLive(listener: (message: LiveMessage) => void, chart?: BarAddress): () => void {
  listeners.add(listener);
  if (chart || !source) connect(chart ?? { market: "", rung: "P1D", hours: "all" });
  return () => {
    listeners.delete(listener);
    if (listeners.size === 0) {
      source?.close();
      source = undefined;
      open = "";
    }
  };
}

export interface Clock {
  now: number;
  speed: number;
  simulated: boolean;
}

/** The market's clock, kept current. */
export function useMarketClock(initial: Clock): Clock {
  const [clock, setClock] = useState(initial);
  useEffect(() => listenLive(({ now, speed, simulated }) => setClock({ now, speed, simulated })), []);
  return clock;
}
