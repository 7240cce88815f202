import { wrap, type Remote } from "comlink";
import type { Mark, MarketFacts } from "#core/marks/kind";
import type { Hours } from "#core/series/hours";
import { toBuffer } from "#core/series/series";
import type { CalendarSpec } from "#core/time/calendar";
import type { LivesAnswer, LivesWorker } from "../../../worker/lives.worker.ts";
import type { LoadedBars } from "../charts/useBars.ts";

export type Lives = ReadonlyMap<string, LivesAnswer[number]>;

const NONE: Lives = new Map();
let worker: Remote<LivesWorker> | undefined;

/** One worker for all charts of the page: what it has loaded for one it has for the others. */
function theWorker(): Remote<LivesWorker> {
  worker ??= wrap<LivesWorker>(
    new Worker(new URL("../../../worker/lives.worker.ts", import.meta.url), { type: "module" }),
  );
  return worker;
}

/** The lives of a market's marks, worked out beside the page. While new ones are being computed the last ones stand. */
export class LivesBoard {
  private lives: Lives = NONE;
  private readonly listeners = new Set<() => void>();
  private busy = false;
  private next: (() => void) | undefined;
  private last: { marks: readonly Mark[]; revision: number; asOf: number | undefined } | undefined;

  constructor(
    private readonly market: MarketFacts,
    private readonly calendar: CalendarSpec,
  ) {}

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };

  get = (): Lives => this.lives;

  /** Has the marks followed over what a chart has loaded; the same marks on the same data are followed once. */
  want(
    marks: readonly Mark[],
    { rung, hours, asOf }: { rung: string; hours: Hours; asOf: number | undefined },
    bars: LoadedBars,
  ): void {
    const { revision, history } = bars;
    const { last } = this;
    if (last && last.marks === marks && last.revision === revision && last.asOf === asOf) return;
    this.last = { marks, revision, asOf };
    const compute = async () => {
      this.busy = true;
      const shown = hours === "all" ? { shown: { rung, bars: toBuffer(bars.series), start: bars.start } } : {};
      const answer = await theWorker()
        .follow({ marks: [...marks], market: this.market, calendar: this.calendar, revision, history, asOf, ...shown })
        .catch(() => undefined);
      this.busy = false;
      if (answer) this.lives = new Map(answer.map((one) => [one.id, one]));
      // Bars that could not be had are asked for anew with the next change.
      else this.last = undefined;
      this.listeners.forEach((listener) => listener());
      const { next } = this;
      this.next = undefined;
      next?.();
    };
    if (this.busy) this.next = () => void compute();
    else void compute();
  }
}
