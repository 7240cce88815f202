import { proxy, wrap, type Remote } from "comlink";
import { toBuffer, type Series } from "#core/series/series";
import type { CountingNews, CountingOptions } from "#core/waves/proposals";
import type { CountsWorker } from "../../../worker/counts.worker.ts";

let worker: Remote<CountsWorker> | undefined;
let number = 0;

/**
 * Has the waves of a series counted beside the page. `tell` hears how far it is; aborting ends it within some
 * milliseconds.
 */
export async function countInWorker(
  series: Series,
  options: CountingOptions,
  signal: AbortSignal,
  tell: (news: CountingNews) => void,
): Promise<void> {
  worker ??= wrap<CountsWorker>(
    new Worker(new URL("../../../worker/counts.worker.ts", import.meta.url), { type: "module" }),
  );
  const id = ++number;
  const cancel = () => void worker?.cancel(id);
  signal.addEventListener("abort", cancel, { once: true });
  try {
    await worker.count(
      id,
      toBuffer(series),
      options,
      proxy((news: CountingNews) => !signal.aborted && tell(news)),
    );
  } finally {
    signal.removeEventListener("abort", cancel);
  }
}
