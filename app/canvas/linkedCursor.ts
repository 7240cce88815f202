import type { ReadAt } from "./crosshair.ts";
import type { Point } from "./gestures.ts";

/** Where the pointer is on one of the charts that stand side by side. */
export interface LinkedAt {
  /** Name of the chart it is on. */
  chart: string;
  market: string;
  /** The instant its bar begins at, and the price beside it. */
  instant: number;
  price: number;
  /** The same in pixels of its chart. */
  point: Point;
  read: ReadAt;
}

/** Where the pointer rested on a chart, if it did, and whether the keys were its. */
interface Rest {
  point: Point | undefined;
  focused: boolean;
}

/**
 * One cursor for all charts of a page: the one under the pointer tells it, the others draw it, the read-out says it.
 */
export class LinkedCursor {
  private at: LinkedAt | undefined;
  private rest: (Rest & { chart: string }) | undefined;
  private readonly listeners = new Set<() => void>();

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };

  get = (): LinkedAt | undefined => this.at;

  /** A chart goes, and with it what it told. What rested on it is kept for the chart that takes its place. */
  leave(chart: string, focused: boolean): void {
    const at = this.at?.chart === chart ? this.at : undefined;
    this.rest = { chart, point: at?.point, focused };
    if (at) this.set(undefined);
  }

  /** What rested on the chart that stood here before: pointer and keys. Asked once. */
  takeRest(chart: string): Rest | undefined {
    const { rest } = this;
    this.rest = undefined;
    return rest?.chart === chart ? rest : undefined;
  }

  set(at: LinkedAt | undefined): void {
    if (at === undefined && this.at === undefined) return;
    this.at = at;
    this.listeners.forEach((listener) => listener());
  }
}
