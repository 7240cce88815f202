import type { ReadAt } from "./crosshair.ts";

/** Where the pointer is on one of the charts that stand side by side. */
export interface LinkedAt {
  /** Name of the chart it is on. */
  chart: string;
  market: string;
  /** The instant its bar begins at, and the price beside it. */
  instant: number;
  price: number;
  read: ReadAt;
}

/**
 * One cursor for all charts of a page: the one under the pointer tells it, the others draw it, the read-out says it.
 */
export class LinkedCursor {
  private at: LinkedAt | undefined;
  private readonly listeners = new Set<() => void>();

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };

  get = (): LinkedAt | undefined => this.at;

  set(at: LinkedAt | undefined): void {
    if (at === undefined && this.at === undefined) return;
    this.at = at;
    this.listeners.forEach((listener) => listener());
  }
}
