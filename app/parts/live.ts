import { useEffect, useState } from "react";
import type { ChartMessage, LiveMessage } from "../../server/feed/live.ts";
import type { BarAddress } from "./barPages.ts";

const listeners = new Set<(message: LiveMessage) => void>();
/** Open charts by "market rung hours", and how many listen to each. */
const charts = new Map<string, number>();
let source: EventSource | undefined;
let open = "";
let planned = false;

/** One stream for all charts of the page: browsers keep only a few connections to one server. */
function connect(): void {
  planned = false;
  const address = `/live?${new URLSearchParams([...charts.keys()].sort().map((chart) => ["chart", chart])).toString()}`;
  if (listeners.size === 0) {
    source?.close();
    source = undefined;
    open = "";
    return;
  }
  if (address === open && source?.readyState !== EventSource.CLOSED) return;
  source?.close();
  open = address;
  source = new EventSource(address);
  source.onmessage = ({ data }) => {
    const message = JSON.parse(data as string) as LiveMessage;
    listeners.forEach((listener) => listener(message));
  };
}

/** Charts come and go several at a time: the stream is opened anew once they are all known. */
function plan(): void {
  if (planned) return;
  planned = true;
  setTimeout(connect, 0);
}

/** Listens to the live stream of the page. */
export function listenLive(listener: (message: LiveMessage) => void): () => void {
  listeners.add(listener);
  plan();
  return () => {
    listeners.delete(listener);
    plan();
  };
}

/** Listens to what is new on one chart. */
export function listenChart(
  { market, rung, hours }: BarAddress,
  listener: (message: ChartMessage) => void,
): () => void {
  const name = `${market} ${rung} ${hours}`;
  charts.set(name, (charts.get(name) ?? 0) + 1);
  const leave = listenLive((message) => {
    for (const chart of message.charts)
      if (chart.market === market && chart.rung === rung && chart.hours === hours) listener(chart);
  });
  return () => {
    const left = (charts.get(name) ?? 1) - 1;
    if (left > 0) charts.set(name, left);
    else charts.delete(name);
    leave();
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
