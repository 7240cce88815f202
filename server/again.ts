import { log } from "./log.ts";

/** Does something again and again, `every` so many milliseconds after it was done; a fault is told and it goes on. */
export function again(work: () => Promise<void>, every: number, fault: string): () => void {
  let stopped = false;
  let timer: NodeJS.Timeout;
  const step = async () => {
    try {
      await work();
    } catch (error) {
      log.error({ error: String(error) }, fault);
    }
    if (!stopped) timer = setTimeout(step, every);
  };
  timer = setTimeout(step, every);
  return () => {
    stopped = true;
    clearTimeout(timer);
  };
}
