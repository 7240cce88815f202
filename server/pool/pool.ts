import { resolve } from "node:path";
import workerpool, { type Pool } from "workerpool";
import { Failure } from "../failure.ts";
import { log } from "../log.ts";
import type { TaskName, Tasks } from "../tasks/tasks.ts";

/**
 * What a kind of work may cost: processes side by side, memory of each (MB), work waiting, and time (ms) once it is
 * begun.
 */
interface Budget {
  processes: number;
  memory: number;
  waiting: number;
}

const BUDGETS = {
  pictures: { processes: 2, memory: 512, waiting: 60 },
  files: { processes: 2, memory: 3072, waiting: 20 },
  rules: { processes: 1, memory: 2048, waiting: 8 },
  measures: { processes: 1, memory: 1024, waiting: 60 },
} satisfies Record<string, Budget>;

const TASKS: Record<TaskName, { pool: keyof typeof BUDGETS; deadline: number; what: string }> = {
  readBars: { pool: "files", deadline: 90_000, what: "The file" },
  splitBars: { pool: "files", deadline: 90_000, what: "The file" },
  jsonBars: { pool: "files", deadline: 60_000, what: "The list" },
  readEvents: { pool: "files", deadline: 10_000, what: "The calendar" },
  ruleHistory: { pool: "rules", deadline: 120_000, what: "The history of the rule" },
  measureWorth: { pool: "measures", deadline: 120_000, what: "What findings were worth" },
  drawPdf: { pool: "pictures", deadline: 45_000, what: "The paper" },
  drawSvg: { pool: "pictures", deadline: 15_000, what: "The picture" },
  drawBoth: { pool: "pictures", deadline: 45_000, what: "The picture" },
};

const pools = new Map<string, Pool>();

/** Gets a process ready to draw, so that the first picture does not wait for it. */
export function warmUp(): void {
  poolOf("pictures")
    .exec("ready", [])
    .catch((error: unknown) => log.warn({ error: String(error) }, "no process could be got ready to draw"));
}

function poolOf(name: keyof typeof BUDGETS): Pool {
  let pool = pools.get(name);
  if (!pool) {
    const { processes, memory, waiting } = BUDGETS[name];
    pool = workerpool.pool(resolve("server/tasks/worker.ts"), {
      workerType: "process",
      maxWorkers: processes,
      maxQueueSize: waiting,
      workerTerminateTimeout: 200,
      forkArgs: [name],
      forkOpts: { execArgv: ["--import", "tsx", `--max-old-space-size=${memory}`], serialization: "advanced" },
    });
    pools.set(name, pool);
  }
  return pool;
}

/**
 * Does expensive or dangerous work in a process of its own: it may take its time, run out of memory or be aborted by a
 * native library without anybody else noticing. A `Failure` says so when it did not come to an end.
 */
export async function runTask<Name extends TaskName>(
  name: Name,
  given: Tasks[Name]["given"],
  signal?: AbortSignal,
  /** Told what the process says of its progress: the share that is done. */
  onProgress?: (share: number) => void,
): Promise<Tasks[Name]["made"]> {
  const { pool, deadline, what } = TASKS[name];
  if (signal?.aborted) throw new Failure("gone", "Nobody is waiting for this any more.", { status: 499 });
  try {
    const working = poolOf(pool)
      .exec(name, [given], { on: (share) => onProgress?.(Number(share)) })
      .timeout(deadline);
    // What has no listener of its own for the end of the work is told of it by a throw.
    const stop = () => {
      try {
        working.cancel();
      } catch (error) {
        log.info({ error: String(error) }, "work that nobody waits for was stopped");
      }
    };
    signal?.addEventListener("abort", stop, { once: true });
    try {
      return (await working) as Tasks[Name]["made"];
    } finally {
      signal?.removeEventListener("abort", stop);
    }
  } catch (error) {
    if (signal?.aborted) throw new Failure("gone", "Nobody is waiting for this any more.", { status: 499 });
    throw failureOf(error, what, deadline);
  }
}

function failureOf(error: unknown, what: string, deadline: number): Failure {
  const text = error instanceof Error ? error.message : String(error);
  const kept = "Nothing was stored.";
  if (error instanceof workerpool.Promise.TimeoutError)
    return new Failure("too-long", `${what} could not be worked out within ${deadline / 1000} s.`, {
      status: 422,
      kept,
      remedy: "Try with less of it.",
    });
  if (/max queue size/i.test(text))
    return new Failure("busy", "Too much is being worked out at this moment.", {
      status: 503,
      kept,
      remedy: "Try again in a little while.",
    });
  log.error({ error: text.slice(0, 2000) }, "work in a process of its own failed");
  return new Failure(
    "failed",
    `${what} could not be worked out: it needs more memory than there is for it, or holds something unexpected.`,
    { status: 422, kept, remedy: "Try with less of it." },
  );
}

export async function closePool(): Promise<void> {
  const ending = [...pools.values()].map((pool) => pool.terminate(true));
  pools.clear();
  await Promise.all(ending);
}
