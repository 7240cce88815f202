import { resolve } from "node:path";
import { Piscina } from "piscina";
import { log } from "../log.ts";
import type { FileOptions, ReadFile } from "./readfile.ts";

let pool: Piscina | undefined;

function thePool(): Piscina {
  if (pool) return pool;
  pool = new Piscina({
    filename: resolve("server/pool/readfile.ts"),
    execArgv: ["--import", "tsx"],
    maxThreads: 2,
    minThreads: 0,
    idleTimeout: 10_000,
  });
  // Without a listener a worker that cannot be loaded would end the whole process.
  pool.on("error", (error) => log.error({ error: String(error) }, "a worker failed"));
  return pool;
}

/** Reads a file of bars away from the thread that answers requests. */
export function readFileInPool(path: string, options: FileOptions): Promise<ReadFile | string> {
  return thePool().run({ path, options });
}

export async function closePool(): Promise<void> {
  await pool?.destroy();
  pool = undefined;
}
