import { useEffect, useState } from "react";
import type { LiveMessage } from "../../server/feed/live.ts";

const listeners = new Set<(message: LiveMessage) => void>();
let source: EventSource | undefined;
let open = "";

/** Tells every listener of the page what the one open stream says. */
function connect(market: string, rung: string): void {
  const address = `/live?market=${encodeURIComponent(market)}&rung=${rung}`;
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
export function listenLive(listener: (message: LiveMessage) => void, market = "", rung = "P1D"): () => void {
  listeners.add(listener);
  if (market || !source) connect(market, rung);
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
